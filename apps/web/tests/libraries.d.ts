// Libraries that ours is held against and that ship no types.
declare module 'wcag-contrast' {
  export function hex(a: string, b: string): number;
}
