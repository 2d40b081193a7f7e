// Libraries that ours is held against and that ship no types.
declare module 'paper/dist/paper-core' {
  export { default } from 'paper';
}
declare module 'jstat' {
  export const jStat: { readonly centralF: { inv(p: number, df1: number, df2: number): number } };
}
declare module 'fzero' {
  export default function fzero(
    f: (x: string) => string,
    bracket: [number, number],
  ): { solution: string; code: number };
}
declare module 'hersheytext' {
  export function renderTextArray(text: string, options?: object): readonly { readonly d: string }[];
}
declare module 'topojson-client' {
  export function feature(
    topology: object,
    object: object,
  ): { readonly features: readonly { readonly geometry: { readonly coordinates: [number, number][][][] } }[] };
}
declare module 'fft.js' {
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    transform(out: number[], data: readonly number[]): void;
  }
}
