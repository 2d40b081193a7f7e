// The package ships no types.
declare module 'simplify-js' {
  interface Place {
    readonly x: number;
    readonly y: number;
  }
  /** Leaves out points nearer to the way without them than `tolerance` (Ramer 1972, where `highQuality`). */
  export default function simplify<P extends Place>(points: P[], tolerance: number, highQuality: boolean): P[];
}
