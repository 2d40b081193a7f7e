// Libraries that ours is held against and that ship no types.
declare module 'clipper-lib' {
  interface IntPoint {
    X: number;
    Y: number;
  }
  export default class ClipperLib {
    static Clipper: {
      new (): {
        AddPaths(paths: IntPoint[][], kind: number, closed: boolean): void;
        Execute(operation: number, result: IntPoint[][], subjectFill: number, clipFill: number): void;
      };
      Area(path: IntPoint[]): number;
      Orientation(path: IntPoint[]): boolean;
    };
    static ClipType: { ctUnion: number; ctXor: number };
    static PolyType: { ptSubject: number; ptClip: number };
    static PolyFillType: { pftNonZero: number };
  }
}
declare module 'paper/dist/paper-core' {
  export { default } from 'paper';
}
