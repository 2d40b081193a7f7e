// What we use of a library that ships no types.
declare module 'clipper-lib' {
  interface IntPoint {
    X: number;
    Y: number;
  }
  export default class ClipperLib {
    static Clipper: {
      new (): {
        AddPath(path: IntPoint[], kind: number, closed: boolean): boolean;
        AddPaths(paths: IntPoint[][], kind: number, closed: boolean): boolean;
        Execute(operation: number, result: IntPoint[][] | object, subjectFill: number, clipFill: number): boolean;
      };
      OpenPathsFromPolyTree(tree: object): IntPoint[][];
      Area(path: IntPoint[]): number;
      MinkowskiSum(pattern: IntPoint[], path: IntPoint[], isClosed: boolean): IntPoint[][];
      Orientation(path: IntPoint[]): boolean;
    };
    static ClipperOffset: {
      new (
        miter: number,
        arcTolerance: number,
      ): {
        AddPath(path: IntPoint[], join: number, end: number): void;
        Execute(result: IntPoint[][], delta: number): void;
      };
    };
    static JoinType: { jtRound: number; jtMiter: number };
    static EndType: { etOpenRound: number; etClosedLine: number; etClosedPolygon: number };
    static PolyTree: { new (): object };
    static ClipType: { ctIntersection: number; ctUnion: number; ctDifference: number; ctXor: number };
    static PolyType: { ptSubject: number; ptClip: number };
    static PolyFillType: { pftNonZero: number; pftEvenOdd: number };
  }
}
