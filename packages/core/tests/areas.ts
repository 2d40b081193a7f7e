import ClipperLib from 'clipper-lib';
import { outlineOf } from '../src/ink';
import type { Stroke } from '../src/stroke';

// Areas by a polygon library (clipper-lib 6.4.2), on a grid of 1/1000 px, non-zero rule.
const GRID = 1000;

export type Ring = { X: number; Y: number }[];

export const toRing = (points: ArrayLike<number>): Ring =>
  Array.from({ length: points.length / 2 }, (_, k) => ({
    X: Math.round(points[2 * k] * GRID),
    Y: Math.round(points[2 * k + 1] * GRID),
  }));

export function area(op: number, subject: Ring[], clip: Ring[]): number {
  const clipper = new ClipperLib.Clipper();
  clipper.AddPaths(subject, ClipperLib.PolyType.ptSubject, true);
  if (clip.length > 0) clipper.AddPaths(clip, ClipperLib.PolyType.ptClip, true);
  const result: Ring[] = [];
  clipper.Execute(op, result, ClipperLib.PolyFillType.pftNonZero, ClipperLib.PolyFillType.pftNonZero);
  return result.reduce((sum, path) => sum + ClipperLib.Clipper.Area(path), 0) / GRID ** 2;
}

/** The rings of what lines ink, for `area`. */
export const inkOf = (strokes: readonly Stroke[]): Ring[] =>
  strokes.flatMap((stroke) => outlineOf(stroke).rings.map(toRing));

/** By how many px² two sets of lines ink the page differently. */
export const inkBetween = (one: readonly Stroke[], other: readonly Stroke[]): number =>
  area(ClipperLib.ClipType.ctXor, inkOf(one), inkOf(other));

export const inkArea = (strokes: readonly Stroke[]): number => area(ClipperLib.ClipType.ctUnion, inkOf(strokes), []);
