import { reweighed, segmentLengths, spineLength, type Spine } from '../curve';
import { clamp, monotoneAt } from '../math';
import type { Nib, NibProfile } from './types';

/**
 * The full width that a pressure 0..1 gives, page px, before any taper: along the curve that the nib's owner has bent, or
 * else a gentle one, by which light touches stay fine.
 */
export function widthUnder(nib: Nib, pressure: number): number {
  const pressed = clamp(pressure, 0, 1);
  const share = nib.press ? clamp(monotoneAt(nib.press, pressed), 0, 1) : pressed * Math.sqrt(pressed);
  return nib.size * (nib.thinnest + (1 - nib.thinnest) * share);
}

const BISECTIONS = 24;

/**
 * The least pressure that gives a width; where none does, the one that comes nearest. 0.5 with a nib whose width does not
 * tell.
 */
export function pressureFor(nib: Nib, width: number): number {
  if (nib.thinnest >= 1) return 0.5;
  if (!nib.press) return clamp((width / nib.size - nib.thinnest) / (1 - nib.thinnest), 0, 1) ** (2 / 3);
  // Between two places at which it was bent the curve only rises or only falls.
  const bends = [0, ...nib.press.map(([pressure]) => clamp(pressure, 0, 1)), 1];
  let nearest = { pressure: 0, away: Infinity };
  for (let k = 0; k + 1 < bends.length; k++) {
    const pressure = pressureBetween(nib, width, bends[k], bends[k + 1]);
    const away = Math.abs(widthUnder(nib, pressure) - width);
    // What halving leaves is not less than nothing: a place farther on must be clearly nearer.
    if (away < nearest.away - 1e-6 * nib.size) nearest = { pressure, away };
  }
  return nearest.pressure;
}

/** The pressure between two at which a curve that only rises or only falls comes nearest to a width. */
function pressureBetween(nib: Nib, width: number, from: number, to: number): number {
  const rises = widthUnder(nib, to) > widthUnder(nib, from);
  let [low, high] = [from, to];
  if (widthUnder(nib, from) >= width === rises) return from;
  for (let k = 0; k < BISECTIONS; k++) {
    const middle = (low + high) / 2;
    if (widthUnder(nib, middle) < width === rises) low = middle;
    else high = middle;
  }
  return high;
}

/** Lengths of a nib's tapers on a stroke of `length` page px: shortened alike where they do not both fit. */
export function taperLengths(nib: Nib, length: number): readonly [swell: number, runOut: number] {
  const swell = nib.taperIn * nib.size;
  const runOut = nib.taperOut * nib.size;
  const fit = Math.min(1, length / (swell + runOut || 1));
  return [swell * fit, runOut * fit];
}

/** The share of the width that the tapers leave at `along` of `length` page px: a quarter sine from each point. */
export function taperAt(nib: Nib, along: number, length: number): number {
  if (nib.taperIn === 0 && nib.taperOut === 0) return 1;
  const [swell, runOut] = taperLengths(nib, length);
  const rise = swell > 0 && along < swell ? Math.sin((Math.PI / 2) * (along / swell)) : 1;
  const left = length - along;
  const fall = runOut > 0 && left < runOut ? Math.sin((Math.PI / 2) * (left / runOut)) : 1;
  return rise * fall;
}

/** Pieces that a taper is cut into, so that its widths follow the nib's law. */
const TAPER_PIECES = 4;

/** A spine with a nib's tapers laid over its widths; nodes are added where the tapers bend. */
export function tapered(spine: Spine, nib: Nib): Spine {
  const length = spineLength(spine);
  const [swell, runOut] = taperLengths(nib, length);
  if (swell + runOut === 0) return spine;
  const marks = [
    ...Array.from({ length: swell > 0 ? TAPER_PIECES : 0 }, (_, k) => (swell * (k + 1)) / TAPER_PIECES),
    ...Array.from({ length: runOut > 0 ? TAPER_PIECES : 0 }, (_, k) => length - runOut * (1 - k / TAPER_PIECES)),
  ];
  return reweighed(spine, marks, (along, whole) => taperAt(nib, along, whole));
}

/** The share of the width that a profile leaves at `share` 0..1 of the whole line. */
export function profileAt(profile: NibProfile, share: number): number {
  const at = clamp(share, 0, 1);
  if (profile === 'in') return Math.sin((Math.PI / 2) * at);
  if (profile === 'out') return Math.cos((Math.PI / 2) * at);
  if (profile === 'lens') return Math.sin(Math.PI * at);
  return clamp(monotoneAt(profile, at), 0, 1);
}

/** Shares of a line at which nodes are added for a profile to bend. */
const PROFILE_STEPS = [1, 2, 3, 4, 5, 6, 7].map((k) => k / 8);

/** A spine with a nib's profile laid over all of it. */
export function profiled(spine: Spine, { profile }: Nib): Spine {
  if (!profile) return spine;
  const length = segmentLengths(spine).reduce((sum, own) => sum + own, 0);
  const own = typeof profile === 'string' ? [] : profile.map(([x]) => x);
  const shares = [...new Set([...PROFILE_STEPS, ...own])].sort((a, b) => a - b);
  const marks = shares.map((share) => share * length);
  return reweighed(spine, marks, (along, whole) => profileAt(profile, along / whole));
}
