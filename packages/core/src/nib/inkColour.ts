/** Red, green and blue of `#rrggbb`, 0..255. */
export type Channels = readonly [red: number, green: number, blue: number];

/** A colour with no channel above this, 0..255, and none far from another, is what a hand takes for black. */
const DARK = 48;
const HUELESS = 16;

export function channelsOf(color: string): Channels {
  const value = parseInt(color.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}

/** How light a colour is, 0..255 (ITU-R BT.601). */
export const lumaOf = ([red, green, blue]: Channels): number => 0.299 * red + 0.587 * green + 0.114 * blue;

/** Whether a colour is meant as black: warm and cold blacks print as black ink alone. */
export const isInkBlack = (channels: Channels): boolean =>
  Math.max(...channels) <= DARK && Math.max(...channels) - Math.min(...channels) <= HUELESS;
