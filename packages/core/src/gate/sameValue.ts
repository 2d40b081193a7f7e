/** Whether two plain values (objects, arrays, typed arrays, numbers, strings) hold the same. */
export function sameValue(a: unknown, b: unknown): boolean {
  // 0 and -0 are one: what was packed comes back without the sign.
  if (a === b || Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (isNumbers(a) || isNumbers(b)) return isNumbers(a) && isNumbers(b) && sameNumbers(a, b);
  const entries = Object.entries(a).filter(([, value]) => value !== undefined);
  const others = new Map(Object.entries(b).filter(([, value]) => value !== undefined));
  return (
    entries.length === others.size &&
    entries.every(([key, value]) => others.has(key) && sameValue(value, others.get(key)))
  );
}

type Numbers = Float64Array | Uint8Array;
const isNumbers = (value: object): value is Numbers => value instanceof Float64Array || value instanceof Uint8Array;

function sameNumbers(a: Numbers, b: Numbers): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
