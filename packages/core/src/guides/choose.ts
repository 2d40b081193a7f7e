import type { Point } from '../math';
import type { EntityId, GuideEntity, GuidePath } from '../page';
import { edgePaths, isNearEdge } from './edges';
import { ellipseSlope, fromMiddle } from './ellipse';
import { project, trackOf, unitVector } from './path';
import { isField, pathThrough } from './through';

/** A guide that bears a line, and the path it gives. */
export interface Choice {
  readonly guide: GuideEntity;
  readonly path: GuidePath;
}

export interface ChoiceOptions {
  /** Page px from an edge within which a hand that starts there rides it. */
  readonly reach: number;
  /** The layer that is drawn on. */
  readonly layerId?: EntityId;
}

/** Whether lines of a layer obey a guide. */
export const actsOn = ({ acting, reach }: GuideEntity, layerId: EntityId | undefined): boolean =>
  acting && (reach === 'all' || (layerId !== undefined && reach.includes(layerId)));

/**
 * The guides that could bear a line from `start`, the best one first: edges within reach by their nearness, then fields by
 * how well their direction there agrees with `heading` (radians; either way along a path is as good).
 */
export function rankGuides(
  guides: readonly GuideEntity[],
  start: Point,
  heading: number | undefined,
  { reach, layerId }: ChoiceOptions,
): Choice[] {
  const edges: (Choice & { readonly away: number })[] = [];
  const fields: (Choice & { readonly away: number })[] = [];
  for (const guide of guides) {
    const { shape } = guide;
    if (!actsOn(guide, layerId)) continue;
    if (shape.kind === 'straightedge' || shape.kind === 'batten' || shape.kind === 'template') {
      if (!isNearEdge(shape, start, reach)) continue;
      for (const path of edgePaths(shape)) {
        const away = project(path, start).distance;
        if (away <= reach) edges.push({ guide, path, away });
      }
    } else if (isField(shape)) {
      const path = pathThrough(guide, start, heading);
      if (path) fields.push({ guide, path, away: heading === undefined ? 0 : turnFrom(path, start, heading) });
    }
  }
  const byNearness = (a: { readonly away: number }, b: { readonly away: number }) => a.away - b.away;
  return [...edges.sort(byNearness), ...fields.sort(byNearness)].map(({ guide, path }) => ({ guide, path }));
}

/** The guide that bears a line from `start`, and its path; nothing where none does. */
export const chooseGuide = (
  guides: readonly GuideEntity[],
  start: Point,
  heading: number | undefined,
  options: ChoiceOptions,
): Choice | undefined => rankGuides(guides, start, heading, options)[0];

/** The direction of a path beside a point that lies on it, or close to it. */
function directionAt(path: GuidePath, at: Point): Point {
  if (path.kind === 'line') return { x: path.dx, y: path.dy };
  if (path.kind === 'curve') {
    const track = trackOf(path);
    return track.direction(track.nearest(at));
  }
  const own = fromMiddle(path, at);
  return unitVector(ellipseSlope(path, Math.atan2(own.y / path.ry, own.x / path.rx)));
}

/** The sine of the angle between a heading and a path at a point. */
function turnFrom(path: GuidePath, at: Point, heading: number): number {
  const { x, y } = directionAt(path, at);
  return Math.abs(x * Math.sin(heading) - y * Math.cos(heading));
}
