import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { keptHere } from './keptHere';

interface KeptStore<S extends object> {
  /** By this name it lies in the browser. */
  readonly name: string;
  readonly version: number;
  readonly fresh: S;
  /** What is kept from one visit to the next; all else begins afresh. */
  readonly kept: readonly (keyof S)[];
  /** Makes what an earlier version kept into what this one keeps; left out, it is taken as far as it fits. */
  readonly migrate?: (old: Readonly<Record<string, unknown>>, version: number) => Readonly<Record<string, unknown>>;
  /** Checks what was kept where its shape alone does not tell; left out, it is laid over what is fresh, field by field. */
  readonly take?: (kept: Readonly<Record<string, unknown>>, fresh: S) => S;
}

/**
 * A store of which some is kept in this browser. What was kept is laid over what is fresh at every depth, so that a setting that
 * is new since has its own value, and a value of another type than it should have is left out.
 */
export function keptStore<S extends object>({
  name,
  version,
  fresh,
  kept,
  migrate,
  take = (own, state) => ({ ...state, ...laidOver(own, Object.fromEntries(Object.entries(state))) }),
}: KeptStore<S>) {
  const keeps = (state: S): Partial<S> => {
    const part: Partial<S> = {};
    for (const key of kept) part[key] = state[key];
    return part;
  };
  const isOurs = (key: string) => kept.some((one) => one === key);
  const known = (value: unknown) =>
    Object.fromEntries(Object.entries(isRecord(value) ? value : {}).filter(([key]) => isOurs(key)));
  return create<S>()(
    persist(() => fresh, {
      name,
      version,
      storage: createJSONStorage(() => keptHere),
      partialize: keeps,
      migrate: (old, from) => (migrate && isRecord(old) ? migrate(old, from) : old),
      merge: (value, state) => take(known(value), state),
    }),
  );
}

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What is kept over what is fresh: records at every depth, lists as a whole, and nothing of another type than is fresh there. */
export function laidOver(
  kept: Readonly<Record<string, unknown>>,
  fresh: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  const laid: Record<string, unknown> = { ...fresh };
  for (const [key, value] of Object.entries(kept)) {
    const own = laid[key];
    if (isRecord(own) && isRecord(value)) laid[key] = laidOver(value, own);
    else if (own === undefined || own === null || isSameType(own, value)) laid[key] = value;
  }
  return laid;
}

const isSameType = (a: unknown, b: unknown): boolean => typeof a === typeof b && Array.isArray(a) === Array.isArray(b);
