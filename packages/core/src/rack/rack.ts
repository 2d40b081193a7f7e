import { clamp } from '../math';
import { freeName, mmToPx } from '../page';
import { sameValue } from '../gate';
import type { Calm } from '../hand';
import type { Nib } from '../nib';

/** What a nib lays down: its ink, the paper's own colour, or nothing, taking away what is there. */
export type Laying = 'ink' | 'paper' | 'clearing';

/** What a nib rubs with: a size in its unit, and a calm of its own, off unless asked for. */
export interface EraserTwin {
  readonly size: number;
  readonly calm: Calm;
}

/** A nib as it lies in the rack, with all that it remembers. */
export interface RackNib {
  readonly id: string;
  readonly group: string;
  readonly favourite: boolean;
  /** What `nib.size` and the twin's size are measured in. */
  readonly unit: 'px' | 'mm';
  readonly lays: Laying;
  readonly nib: Nib;
  readonly calm: Calm;
  readonly twin: EraserTwin;
}

/** The nibs in the order in which they lie. */
export type Rack = readonly RackNib[];

export class RackError extends Error {
  override readonly name = 'RackError';
}

/** Sizes that a nib may have, page px and mm. */
export const SIZE_LIMITS = { px: { least: 0.5, most: 200 }, mm: { least: 0.02, most: 15 } } as const;
export const TWIN_LIMITS = { px: { least: 2, most: 400 }, mm: { least: 0.1, most: 30 } } as const;
/** Nibs that a rack may hold. */
export const MOST_NIBS = 500;

const NIB_PX = { least: 0.05, most: 2_000 } as const;

/** A size of a nib in page px, on a page of so many px an inch. */
export const sizeInPx = (size: number, { unit }: Pick<RackNib, 'unit'>, ppi: number): number =>
  unit === 'mm' ? clamp(mmToPx(size, ppi), NIB_PX.least, NIB_PX.most) : size;

/** The nib as it draws on a page of so many px an inch, whose paper is of a colour. */
export function nibAt(rackNib: RackNib, ppi: number, paper: string): Nib {
  const { nib, lays } = rackNib;
  return { ...nib, size: sizeInPx(nib.size, rackNib, ppi), color: lays === 'paper' ? paper : nib.color };
}

/** The groups, in the order of their first nibs. */
export const groupsOf = (rack: Rack): string[] => [...new Set(rack.map(({ group }) => group))];

/** The nibs whose name or group holds all words of a text, those favoured first. */
export function foundIn(rack: Rack, text: string): RackNib[] {
  const words = text.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const isFound = ({ nib, group }: RackNib) =>
    words.every((word) => `${nib.name} ${group}`.toLocaleLowerCase().includes(word));
  const found = rack.filter(isFound);
  return words.length === 0 ? found : [...found].sort((a, b) => Number(b.favourite) - Number(a.favourite));
}

/** The rack with a nib changed; the rack itself where it has no such nib. */
export const changeInRack = (rack: Rack, id: string, change: (nib: RackNib) => RackNib): Rack =>
  rack.map((one) => (one.id === id ? change(one) : one));

/** The rack with a copy of a nib beside it, under a name of its own. Throws a RackError when it is full. */
export function duplicateInRack(rack: Rack, id: string, newId: string): Rack {
  checkRoom(rack, 1);
  return rack.flatMap((one) =>
    one.id === id
      ? [one, { ...one, id: newId, favourite: false, nib: { ...one.nib, name: freeName(namesIn(rack), one.nib.name) } }]
      : [one],
  );
}

/** The rack without a nib. Throws a RackError for the last one: a hand is never empty. */
export function deleteFromRack(rack: Rack, id: string): Rack {
  if (rack.length <= 1) throw new RackError('This is the last nib. A rack needs one to draw with.');
  return rack.filter((one) => one.id !== id);
}

/** The rack with further nibs at its end; those that it has already are left out. Throws a RackError when it is full. */
export function addToRack(rack: Rack, nibs: readonly RackNib[], newId: () => string): Rack {
  let grown = rack;
  for (const one of nibs) {
    if (grown.some((other) => isAlike(one, other))) continue;
    checkRoom(grown, 1);
    const id = grown.some((other) => other.id === one.id) ? newId() : one.id;
    grown = [...grown, { ...one, id, nib: { ...one.nib, name: freeName(namesIn(grown), one.nib.name) } }];
  }
  return grown;
}

function checkRoom(rack: Rack, more: number): void {
  if (rack.length + more > MOST_NIBS) throw new RackError(`A rack holds at most ${MOST_NIBS} nibs.`);
}

const isAlike = ({ id: _a, ...one }: RackNib, { id: _b, ...other }: RackNib): boolean => sameValue(one, other);

export const namesIn = (rack: Rack): string[] => rack.map(({ nib }) => nib.name);
