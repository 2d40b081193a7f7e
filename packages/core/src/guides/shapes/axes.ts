import { checkAngle, checkFarPlace, flag, id, number, oneOf, PageError } from '../../gate';
import { distance, projectiveOf, identity } from '../../math';
import { checkVanishingPoint } from '../checkParts';
import { FRAME_PLANES, GUIDE_LIMITS, type FoldShape, type MirrorShape, type WheelShape } from '../guide';
import { project } from '../path';
import { wayTo } from '../perspective/frame';
import { ARM, gripOf, movedBy, off, turnedBy } from './handling';
import type { Carriage, ShapeRow } from './row';

/** Nothing is drawn along an axis, so nothing is carried with it. */
const stays = (): Carriage => ({ by: 'map', map: projectiveOf(identity) });

/** One axis. */
export const mirror: ShapeRow<MirrorShape> = {
  bears: 'nothing',
  check: (fields) => ({
    kind: 'mirror',
    ...checkFarPlace(fields),
    angle: checkAngle(fields),
    joins: flag(fields.joins, 'joins'),
  }),
  path: () => undefined,
  obeys: (path) => path.kind === 'curve',
  isOn: ({ x, y, angle }, at, reach) =>
    project({ kind: 'line', x, y, dx: Math.cos(angle), dy: Math.sin(angle) }, at).distance <= reach,
  anchor: ({ x, y }) => ({ x, y }),
  grips: (shape, { perCss }) => [gripOf('move', shape), gripOf('turn', off(shape, shape.angle, ARM * perCss))],
  place: turnedBy,
  move: movedBy,
  courses: stays,
};

/** Several axes, or turns, about a middle. */
export const wheel: ShapeRow<WheelShape> = {
  bears: 'nothing',
  check(fields) {
    const { sectors } = GUIDE_LIMITS;
    const count = number(fields.sectors, 'sectors', sectors.least, sectors.most);
    const reflects = flag(fields.reflects, 'reflects');
    if (!Number.isInteger(count)) throw new PageError(`A wheel has a whole number of sectors; ${count} came.`);
    if (reflects && count % 2 === 1)
      throw new PageError(
        `A reflecting wheel draws each stroke with its mirror image: its number is even; ${count} came.`,
      );
    return {
      kind: 'wheel',
      ...checkFarPlace(fields),
      angle: checkAngle(fields),
      sectors: count,
      reflects,
      joins: flag(fields.joins, 'joins'),
    };
  },
  path: () => undefined,
  obeys: (path) => path.kind === 'curve',
  isOn: (shape, at, reach) => distance(shape, at) <= 2 * reach,
  anchor: ({ x, y }) => ({ x, y }),
  grips: (shape, { perCss }) => [gripOf('move', shape), gripOf('turn', off(shape, shape.angle, ARM * perCss))],
  place: turnedBy,
  move: movedBy,
  courses: stays,
};

/** An axis in a plane of a frame. */
export const fold: ShapeRow<FoldShape> = {
  bears: 'nothing',
  check: (fields) => ({
    kind: 'fold',
    ...checkFarPlace(fields),
    ...{ frame: id(fields.frame, 'frame'), plane: oneOf(fields.plane, 'plane', FRAME_PLANES) },
    across: checkVanishingPoint(fields.across, 'across'),
    along: checkVanishingPoint(fields.along, 'along'),
  }),
  frames: ({ frame }) => [frame],
  reframed: (shape, renamed) => ({ ...shape, frame: renamed(shape.frame) }),
  path: () => undefined,
  obeys: (path) => path.kind === 'curve',
  isOn(shape, at, reach) {
    const way = wayTo(shape.along, shape);
    const line = way && ({ kind: 'line', x: shape.x, y: shape.y, dx: way.x, dy: way.y } as const);
    return line !== undefined && project(line, at).distance <= reach;
  },
  anchor: ({ x, y }) => ({ x, y }),
  grips: (shape) => [gripOf('move', shape)],
  move: movedBy,
  courses: stays,
};
