import { keptHere } from '../base';

/** A new id: 96 random bits, short enough for 20,000 of them. Works without a secure context. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return Array.from(bytes, (byte) => byte.toString(36).padStart(2, '0')).join('');
}

const AUTHOR = 'true-nib.author';

/** Who draws in this browser: kept, so that undo goes on after a reload. */
export function author(): string {
  const known = keptHere.getItem(AUTHOR);
  if (known) return known;
  const fresh = newId();
  keptHere.setItem(AUTHOR, fresh);
  return fresh;
}
