import { isSameCourse } from '../../curve';
import { checkSpine } from '../../gate';
import { edgePaths } from '../edges';
import { echoThroughOnce } from '../echo';
import type { BattenShape, EchoShape } from '../guide';
import { nearestPath, project } from '../path';
import { courseDragged, courseGrips, courseMoved } from './handling';
import type { ShapeRow } from './row';

/** A bendable curve with an edge. */
export const batten: ShapeRow<BattenShape> = {
  bears: 'edge',
  check: (fields) => ({ kind: 'batten', course: checkSpine(fields.course) }),
  path: (shape, { at }) => nearestPath(edgePaths(shape), at),
  obeys: (path, shape) => path.kind === 'curve' && isSameCourse(path.course, shape.course),
  isOn: (shape, at, reach) => edgePaths(shape).some((path) => project(path, at).distance <= reach),
  anchor: ({ course: { points } }) => ({ x: points[0], y: points[1] }),
  grips: ({ course }, look) => courseGrips(course, look),
  place: courseDragged,
  move: courseMoved,
  courses: (before, after) => ({ by: 'course', before: before.course, after: after.course }),
};

/** Parallels of a curve, at true distances. */
export const echo: ShapeRow<EchoShape> = {
  bears: 'field',
  check: (fields) => ({ kind: 'echo', course: checkSpine(fields.course) }),
  path: (shape, { at }) => echoThroughOnce(shape, at),
  obeys: (path) => path.kind === 'curve',
  isOn: ({ course }, at, reach) => project({ kind: 'curve', course }, at).distance <= reach,
  anchor: ({ course: { points } }) => ({ x: points[0], y: points[1] }),
  grips: ({ course }, look) => courseGrips(course, look),
  place: courseDragged,
  move: courseMoved,
  courses: (before, after) => ({ by: 'course', before: before.course, after: after.course }),
};
