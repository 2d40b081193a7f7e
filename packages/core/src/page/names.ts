import { ENTITY_LIMITS } from '../gate';

const MOST = ENTITY_LIMITS.nameLength;

/** A name or a label as long as it may be kept. */
export const shortened = (name: string, most: number = MOST): string =>
  name.length <= most ? name : `${name.slice(0, most - 1).replace(HALF_A_CHARACTER, '')}…`;

/** The first half of one that takes two (a surrogate of UTF-16), left over by a cut. */
const HALF_A_CHARACTER = /[\uD800-\uDBFF]$/;

/** A name that is not among the taken ones: the wanted one, or what it is without its number with the next that is free. */
export function freeName(taken: Iterable<string>, wanted: string): string {
  const names = new Set(taken);
  if (!names.has(wanted)) return wanted;
  const [, base, number] = /^(.*?)(?: (\d{1,4}))?$/s.exec(wanted) ?? [];
  for (let k = number === undefined ? 2 : Number(number) + 1; ; k++) {
    const name = `${shortened(base ?? wanted, MOST - 6)} ${k}`;
    if (!names.has(name)) return name;
  }
}
