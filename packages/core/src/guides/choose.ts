import type { Point } from '../math';
import { FRAME_WAYS, type FrameWay, type GuideEntity } from './guide';
import type { EntityId } from '../kind';
import type { GuidePath } from '../curve';
import { edgePaths, isNearEdge } from './edges';
import { isEdge, isField, pathThrough } from './through';
import { ellipseSlope, fromMiddle } from './ellipse';
import { project, trackOf } from './path';
import { unitVector } from './track';
import type { Extent } from './perspective/frame';
import { framePaths } from './perspective/grid';

/** A guide that bears a line, and the path it gives. */
export interface GuideChoice {
  readonly guide: GuideEntity;
  readonly path: GuidePath;
}

export interface ChoiceOptions {
  /** Page px from an edge within which a hand that starts there rides it. */
  readonly reach: number;
  /** The layer that is drawn on. */
  readonly layerId?: EntityId;
  /** The page: it tells the cameras of frames. */
  readonly page?: Extent;
  /** The only directions that lines of frames take. */
  readonly ways?: readonly FrameWay[];
}

/** Whether lines of a layer obey a guide. */
export const actsOn = ({ acting, reach }: GuideEntity, layerId: EntityId | undefined): boolean =>
  acting && (reach === 'all' || (layerId !== undefined && reach.includes(layerId)));

/** Guides ranked for a line from one place, as its heading (radians) becomes clear. */
export type Ranking = (heading: number | undefined) => GuideChoice[];

/**
 * The guides that could bear a line from `start`, the best one first: edges within reach by their nearness, then fields by
 * how well their direction there agrees with the heading (either way along a path is as good). What does not hang on the
 * heading is worked out once.
 */
export function rankingAt(guides: readonly GuideEntity[], start: Point, options: ChoiceOptions): Ranking {
  const { reach, layerId, page = { width: 0, height: 0 }, ways = FRAME_WAYS } = options;
  const edges: (GuideChoice & { readonly away: number })[] = [];
  const fields: { readonly guide: GuideEntity; readonly path: GuidePath | undefined; readonly way: Point }[] = [];
  for (const guide of guides) {
    const { shape } = guide;
    if (!actsOn(guide, layerId)) continue;
    if (shape.kind === 'frame') {
      for (const { path } of framePaths(shape, page, start, ways))
        fields.push({ guide, path, way: { x: path.dx, y: path.dy } });
    } else if (isField(shape)) {
      const path = pathThrough(guide, start);
      if (path) fields.push({ guide, path, way: directionAt(path, start) });
      else if (shape.kind === 'rays') fields.push({ guide, path, way: start });
    } else if (isEdge(shape) && isNearEdge(shape, start, reach)) {
      for (const path of edgePaths(shape)) {
        const away = project(path, start).distance;
        if (away <= reach) edges.push({ guide, path, away });
      }
    }
  }
  const near = edges.sort((a, b) => a.away - b.away).map(({ guide, path }) => ({ guide, path }));
  return (heading) => {
    const [x, y] = heading === undefined ? [0, 0] : [Math.cos(heading), Math.sin(heading)];
    const ranked = fields.flatMap(({ guide, path, way }) => {
      // At their own point rays go wherever the hand does.
      const own = path ?? pathThrough(guide, start, heading);
      return own ? [{ guide, path: own, away: path ? Math.abs(way.x * y - way.y * x) : 0 }] : [];
    });
    return [...near, ...ranked.sort((a, b) => a.away - b.away).map(({ guide, path }) => ({ guide, path }))];
  };
}

/** The guides that could bear a line from `start` towards `heading` (radians), the best one first. */
export const rankGuides = (
  guides: readonly GuideEntity[],
  start: Point,
  heading: number | undefined,
  options: ChoiceOptions,
): GuideChoice[] => rankingAt(guides, start, options)(heading);

/** The guide that bears a line from `start`, and its path; nothing where none does. */
export const chooseGuide = (
  guides: readonly GuideEntity[],
  start: Point,
  heading: number | undefined,
  options: ChoiceOptions,
): GuideChoice | undefined => rankGuides(guides, start, heading, options)[0];

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
