import { isSameCourse } from '../../curve';
import {
  checkAngle,
  checkFarPlace,
  checkProjective,
  checkSpine,
  id,
  list,
  number,
  oneOf,
  PageError,
  record,
} from '../../gate';
import { apply, clamp, invert, projectiveOf, then, translation, type Point } from '../../math';
import { edgePaths, templateRings } from '../edges';
import { FRAME_PLANES, GUIDE_LIMITS, type PlaneShape, type TemplatePlace, type TemplateShape } from '../guide';
import { nearestPath, project } from '../path';
import { isOnPlaneShape, planeShapeMove } from '../perspective/carry';
import { fromPlane, onPlane, shiftedPlane } from '../perspective/plane';
import { halfSize, templateMap } from '../placed';
import { gripOf, off, stepped } from './handling';
import type { GripDrag, GripLook, GripPlace, ShapeRow } from './row';

/** Outlines to draw round. */
export const template: ShapeRow<TemplateShape> = {
  bears: 'edge',
  check: (fields) => ({
    kind: 'template',
    rings: list(fields.rings, 'rings', GUIDE_LIMITS.rings).map(checkSpine),
    place: checkTemplatePlace(fields.place),
  }),
  path: (shape, { at }) => nearestPath(edgePaths(shape), at),
  obeys: (path, shape) => path.kind === 'curve' && templateRings(shape).some((ring) => isSameCourse(ring, path.course)),
  isOn: (shape, at, reach) => edgePaths(shape).some((path) => project(path, at).distance <= reach),
  anchor: ({ place: { x, y } }) => ({ x, y }),
  grips: templateGrips,
  place: templateDragged,
  move: (shape, dx, dy) => ({ ...shape, place: { ...shape.place, ...apply(translation(dx, dy), shape.place) } }),
  courses: (before, after) => ({
    by: 'map',
    map: projectiveOf(then(invert(templateMap(before.place)), templateMap(after.place))),
  }),
};

/** Outlines to draw round that lie on a plane of a frame: there they are handled as any template is. */
export const plane: ShapeRow<PlaneShape> = {
  bears: 'edge',
  check: (fields) => ({
    kind: 'plane',
    ...{ frame: id(fields.frame, 'frame'), plane: oneOf(fields.plane, 'plane', FRAME_PLANES) },
    map: checkProjective(fields.map),
    rings: list(fields.rings, 'rings', GUIDE_LIMITS.rings).map(checkSpine),
    place: checkTemplatePlace(fields.place),
  }),
  frames: ({ frame }) => [frame],
  reframed: (shape, renamed) => ({ ...shape, frame: renamed(shape.frame) }),
  path: (shape, { at }) => nearestPath(edgePaths(shape), at),
  obeys: isOnPlaneShape,
  isOn: (shape, at, reach) => edgePaths(shape).some((path) => project(path, at).distance <= reach),
  anchor: ({ map, place }) => fromPlane(map, place) ?? { x: map[2], y: map[5] },
  grips: (shape, look) =>
    templateGrips(inPlane(shape), look).flatMap((one): GripPlace[] => {
      const at = fromPlane(shape.map, one.at);
      return at ? [{ ...one, at }] : [];
    }),
  place(shape, drag) {
    const [from, to] = [drag.from, drag.to].map((p) => onPlane(shape.map, p));
    if (!from || !to) return shape;
    const flat = inPlane(shape);
    const { place } = templateDragged(flat, { ...drag, from, to }) ?? template.move(flat, to.x - from.x, to.y - from.y);
    return fromPlane(shape.map, place) ? { ...shape, place } : shape;
  },
  move: shiftedPlane,
  courses: (before, after) => ({ by: 'map', map: planeShapeMove(before, after) }),
};

const inPlane = ({ rings, place }: PlaneShape): TemplateShape => ({ kind: 'template', rings, place });

function checkTemplatePlace(value: unknown): TemplatePlace {
  const fields = record(value, 'A place');
  const scale = (name: string) => {
    const found = number(fields[name], name, -GUIDE_LIMITS.scale, GUIDE_LIMITS.scale);
    if (Math.abs(found) < 1e-4) throw new PageError(`"${name}" flattens the template; ${found} came.`);
    return found;
  };
  return { ...checkFarPlace(fields), scaleX: scale('scaleX'), scaleY: scale('scaleY'), angle: checkAngle(fields) };
}

/** CSS px from a template to the knob that turns it. */
const STEM = 30;

function templateGrips(shape: TemplateShape, { perCss }: GripLook): GripPlace[] {
  const { corners, top } = templateFrame(shape);
  return [
    gripOf('move', shape.place),
    gripOf('turn', off(top, shape.place.angle - Math.PI / 2, STEM * perCss)),
    ...corners.map((at, corner): GripPlace => ({ grip: { part: 'corner', corner }, at, look: 'corner' })),
  ];
}

/** The corners of a template's box on the page, and the middle of its upper side. */
function templateFrame({ rings, place }: TemplateShape): { readonly corners: Point[]; readonly top: Point } {
  const [w, h] = halfSize(rings);
  const map = templateMap(place);
  const corners = [
    { x: -w, y: -h },
    { x: w, y: -h },
    { x: w, y: h },
    { x: -w, y: h },
  ].map((p) => apply(map, p));
  return { corners, top: apply(map, { x: 0, y: place.scaleY > 0 ? -h : h }) };
}

function templateDragged(shape: TemplateShape, { grip, to, isExact }: GripDrag): TemplateShape | undefined {
  if (grip.part === 'corner') return resized(shape, grip.corner, to, isExact);
  if (grip.part !== 'turn') return undefined;
  const { place } = shape;
  const angle = Math.atan2(to.y - place.y, to.x - place.x) + Math.PI / 2;
  return { ...shape, place: { ...place, angle: stepped(angle, isExact) } };
}

/** A template sized about its middle; `isExact` keeps its proportions. */
function resized(shape: TemplateShape, corner: number, to: Point, isExact: boolean): TemplateShape {
  const { rings, place } = shape;
  const [w, h] = halfSize(rings);
  const own = apply(invert(templateMap({ ...place, scaleX: 1, scaleY: 1 })), to);
  const [sx, sy] = [corner === 1 || corner === 2 ? 1 : -1, corner > 1 ? 1 : -1];
  let [scaleX, scaleY] = [(sx * own.x) / w, (sy * own.y) / h];
  if (isExact) {
    const factor = Math.max(Math.abs(scaleX / place.scaleX), Math.abs(scaleY / place.scaleY));
    [scaleX, scaleY] = [factor * place.scaleX, factor * place.scaleY];
  }
  const kept = (scale: number) => (Math.abs(scale) < 0.01 ? 0.01 * (scale < 0 ? -1 : 1) : clamp(scale, -1e3, 1e3));
  return { ...shape, place: { ...place, scaleX: kept(scaleX), scaleY: kept(scaleY) } };
}
