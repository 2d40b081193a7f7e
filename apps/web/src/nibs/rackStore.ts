import { clamp } from '@true-nib/core/math';
import { freeName, paperOf, pxToMm, type Page } from '@true-nib/core/page';
import type { Calm } from '@true-nib/core/hand';
import type { Nib } from '@true-nib/core/nib';
import {
  addToRack,
  changeInRack,
  checkRack,
  deleteFromRack,
  duplicateInRack,
  namesIn,
  nibAt,
  SHIPPED_NIBS,
  shippedNib,
  SIZE_LIMITS,
  sizeInPx,
  TWIN_LIMITS,
  type EraserTwin,
  type Rack,
  type RackNib,
} from '@true-nib/core/rack';
import { create } from 'zustand';
import { keptStore } from '../base';
import { newId } from '../session';

/** The nibs on this desk, and what is known of the server's. */
export interface RackState {
  readonly rack: Rack;
  readonly inHand: string;
  /** The rack as the server last had it, and its revision there; both racks grew out of it. */
  readonly base: Rack;
  readonly revision: number;
  /** Earlier racks with what was in hand then, for taking back what was done to nibs; the last is the newest. */
  readonly past: readonly { readonly rack: Rack; readonly inHand: string }[];
  /** The calm that *Raw* took the place of, for each nib. */
  readonly calmBefore: Readonly<Record<string, Calm>>;
}

const MOST_PAST = 40;

/** What this browser kept of the rack, as far as it is one. */
function takeRack({ rack, base, inHand, revision }: Readonly<Record<string, unknown>>, fresh: RackState): RackState {
  try {
    const own = checkRack(rack);
    const first = typeof inHand === 'string' ? inHand : own[0].id;
    return { ...fresh, rack: own, base: checkRack(base), inHand: first, revision: Number(revision) || 0 };
  } catch {
    return fresh;
  }
}

export const useRack = keptStore<RackState>({
  name: 'true-nib.rack',
  version: 1,
  fresh: { rack: SHIPPED_NIBS, inHand: 'pressure', base: SHIPPED_NIBS, revision: 0, past: [], calmBefore: {} },
  kept: ['rack', 'inHand', 'base', 'revision'],
  take: takeRack,
});

const set = (change: Partial<RackState>): void => void useRack.setState(change);

export const nibInHand = ({ rack, inHand }: RackState): RackNib => rack.find(({ id }) => id === inHand) ?? rack[0];

const inHandNow = (): RackNib => nibInHand(useRack.getState());

/** The nib in hand as it draws on a page. */
export const nibFor = (page: Page, rackNib = inHandNow()): Nib =>
  nibAt(rackNib, page.size.ppi, paperOf(page) ?? '#ffffff');

/** The nib in hand as a border is drawn with it: no hand presses. */
export const borderNibFor = (page: Page): Nib => ({ ...nibFor(page), thinnest: 1, taperIn: 0, taperOut: 0 });

/** The size of the eraser twin on a page, page px. */
export const rubSizeFor = (page: Page, rackNib = inHandNow()): number =>
  sizeInPx(rackNib.twin.size, rackNib, page.size.ppi);

export const takeNibById = (inHand: string): void => set({ inHand });

/** Takes the next nib of the same group in hand. */
export function takeNextNib(): void {
  const { rack } = useRack.getState();
  const { id, group } = inHandNow();
  const beside = rack.filter((nib) => nib.group === group);
  set({ inHand: beside[(beside.findIndex((nib) => nib.id === id) + 1) % beside.length].id });
}

/** Changes the nib in hand. */
export function changeRackNib(change: (nib: RackNib) => RackNib): void {
  const { rack } = useRack.getState();
  set({ rack: changeInRack(rack, inHandNow().id, change) });
}

export const changeNib = (change: Partial<Nib>): void =>
  changeRackNib((one) => ({ ...one, nib: { ...one.nib, ...change } }));

/** Changes the nib in hand by leaving out one of its values: it is then as a plain nib is. */
export function plainNib(name: 'tip' | 'press' | 'profile' | 'edge' | 'opacity'): void {
  changeRackNib((one) => {
    const { [name]: _gone, ...nib } = one.nib;
    return { ...one, nib };
  });
}

export const setCalm = (calm: Calm): void => changeRackNib((one) => ({ ...one, calm }));

export const changeTwin = (change: Partial<EraserTwin>): void =>
  changeRackNib((one) => ({ ...one, twin: { ...one.twin, ...change } }));

export const setNibSize = (size: number): void => {
  const { least, most } = SIZE_LIMITS[inHandNow().unit];
  changeNib({ size: clamp(size, least, most) });
};

export const setRubSize = (size: number): void => {
  const { least, most } = TWIN_LIMITS[inHandNow().unit];
  changeTwin({ size: clamp(size, least, most) });
};

/** Measures the nib in hand in the other unit; it stays as large as it is on a page of so many px an inch. */
export function setUnit(unit: RackNib['unit'], ppi: number): void {
  changeRackNib((one) => {
    if (one.unit === unit) return one;
    const turned = (size: number, limits: { least: number; most: number }) => {
      const other = unit === 'mm' ? pxToMm(size, ppi) : sizeInPx(size, { unit: 'mm' }, ppi);
      return clamp(Number(other.toFixed(unit === 'mm' ? 3 : 1)), limits.least, limits.most);
    };
    const twin = { ...one.twin, size: turned(one.twin.size, TWIN_LIMITS[unit]) };
    return { ...one, unit, nib: { ...one.nib, size: turned(one.nib.size, SIZE_LIMITS[unit]) }, twin };
  });
}

/** Turns *Raw* on, or back to what it took the place of. */
export function toggleCalm(): void {
  const { id, calm } = inHandNow();
  const { calmBefore } = useRack.getState();
  if (calm.way === 'raw') return setCalm(calmBefore[id] ?? { way: 'even', strength: 40 });
  set({ calmBefore: { ...calmBefore, [id]: calm } });
  setCalm({ way: 'raw' });
}

// What is done to the rack itself, and can be taken back.

function edit(change: (rack: Rack) => Rack, inHand?: string): void {
  const { rack, past, inHand: before } = useRack.getState();
  const changed = change(rack);
  const isThere = (id: string) => changed.some((nib) => nib.id === id);
  const hand = inHand ?? before;
  set({
    rack: changed,
    past: [...past, { rack, inHand: before }].slice(-MOST_PAST),
    inHand: isThere(hand) ? hand : changed[0].id,
  });
}

export function duplicateNib(): void {
  const id = newId();
  edit((rack) => duplicateInRack(rack, inHandNow().id, id), id);
}

/** Lays a plain nib beside the one in hand and takes it. */
export function createNib(): void {
  const id = newId();
  const { group } = inHandNow();
  const plain = shippedNib('fixed-liner') ?? SHIPPED_NIBS[0];
  edit((rack) => {
    const name = freeName(namesIn(rack), 'Own nib');
    return addToRack(rack, [{ ...plain, id, group, nib: { ...plain.nib, name } }], newId);
  }, id);
}

/** Throws a RackError for the last nib. */
export const deleteNib = (): void => edit((rack) => deleteFromRack(rack, inHandNow().id));

/** Gives a nib that came with the desk all that it came with. */
export const resetNib = (): void =>
  edit((rack) => changeInRack(rack, inHandNow().id, (one) => shippedNib(one.id) ?? one));

export const importNibs = (nibs: Rack): number => {
  const before = useRack.getState().rack.length;
  edit((rack) => addToRack(rack, nibs, newId));
  return useRack.getState().rack.length - before;
};

/** Takes back the last thing that was done to the rack itself. Answers whether there was one. */
export function undoRack(): boolean {
  const { past } = useRack.getState();
  const before = past.at(-1);
  if (!before) return false;
  set({ ...before, past: past.slice(0, -1) });
  return true;
}

/** The pressures of the last stroke, as the hand gave them; not kept. */
export const useLastHand = create<{ readonly pressures: readonly number[] }>(() => ({ pressures: [] }));
