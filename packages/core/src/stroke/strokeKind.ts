import {
  checkMatrix,
  checkPath,
  checkRing,
  checkSpine,
  ENTITY_LIMITS,
  id,
  list,
  number,
  oneOf,
  optional,
  record,
} from '../gate';
import { checkLaid, laidCopy, laidRefs, type Kind } from '../kind';
import { checkCalm } from '../hand';
import { checkNib } from '../nib';
import { styledStroke } from './style';
import type {
  StrokeCopy,
  StrokeEnd,
  StrokeEntity,
  StrokeGrain,
  StrokeGuide,
  StrokeOrigin,
  StrokePulled,
} from './types';

/** What a line is. Its samples and its guide may be gone: then it is not calmed anew, and is not tied. */
export const strokeKind: Kind<StrokeEntity> = {
  isMany: true,
  check: checkStroke,
  refs: (stroke) => {
    const { needs, knows = [] } = laidRefs(stroke);
    const { origin, guide, copy, pulled } = stroke;
    return {
      needs,
      ...(copy && { shares: [copy.set] }),
      knows: [
        ...knows,
        ...(origin ? [origin.samples] : []),
        ...(guide ? [guide.id] : []),
        ...(pulled ? [pulled.camera] : []),
      ],
    };
  },
  remap: ({ pulled, ...stroke }, copyId, renamed) => ({
    ...laidCopy(stroke, copyId, renamed),
    ...(stroke.origin && { origin: { ...stroke.origin, samples: renamed(stroke.origin.samples) } }),
    ...(stroke.guide && { guide: { ...stroke.guide, id: renamed(stroke.guide.id) } }),
    ...(stroke.copy && { copy: { ...stroke.copy, set: renamed(stroke.copy.set) } }),
    // A second line of one edge would follow beside the first: only with a camera of its own it is pulled anew.
    ...(pulled &&
      renamed(pulled.camera) !== pulled.camera && { pulled: { ...pulled, camera: renamed(pulled.camera) } }),
  }),
  laidDown: styledStroke,
};

/** The stroke in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkStroke(value: object): StrokeEntity {
  const fields = record(value, 'A stroke');
  const ends = list(fields.ends, 'ends', 2);
  const stroke: StrokeEntity = {
    kind: 'stroke',
    ...checkLaid(fields),
    spine: checkSpine(fields.spine),
    nib: checkNib(fields.nib),
    ends: [checkEnd(ends[0]), checkEnd(ends[1])],
    ...optional(fields, 'grain', checkGrain),
    ...optional(fields, 'guide', checkStrokeGuide),
    ...optional(fields, 'copy', checkCopy),
    ...optional(fields, 'pulled', checkPulled),
    ...(fields.fills === true ? { fills: true as const } : {}),
  };
  return fields.origin === undefined ? stroke : { ...stroke, origin: checkOrigin(fields.origin) };
}

function checkEnd(value: unknown): StrokeEnd {
  if (typeof value !== 'object' || value === null) return oneOf(value, 'ends', ['round', 'flat']);
  const { gone } = record(value, 'An end');
  return { gone: checkRing(gone, 'gone') };
}

function checkGrain(value: unknown): StrokeGrain {
  const fields = record(value, 'A grain');
  return {
    seed: number(fields.seed, 'seed', 0, 0xffffffff),
    offset: number(fields.offset, 'offset', 0, ENTITY_LIMITS.coordinate),
  };
}

function checkOrigin(value: unknown): StrokeOrigin {
  const fields = record(value, 'An origin');
  return {
    samples: id(fields.samples, 'samples'),
    calm: checkCalm(fields.calm),
    zoom: number(fields.zoom, 'zoom', 1e-3, 1e3),
    ...optional(fields, 'matrix', checkMatrix),
    ...optional(fields, 'widened', (value) => number(value, 'widened', 1e-9, 1e9)),
    ...optional(fields, 'left', (value) => oneOf(value, 'left', ['cut', 'edited'])),
  };
}

function checkStrokeGuide(value: unknown): StrokeGuide {
  const fields = record(value, "A stroke's guide");
  return { id: id(fields.id, 'id'), path: checkPath(fields.path) };
}

function checkPulled(value: unknown): StrokePulled {
  const fields = record(value, 'Where a line was pulled');
  return {
    camera: id(fields.camera, 'camera'),
    edge: id(fields.edge, 'edge'),
    sum: number(fields.sum, 'sum', 0, 0xffffffff),
  };
}

function checkCopy(value: unknown): StrokeCopy {
  const fields = record(value, 'A copy');
  return { set: id(fields.set, 'set'), matrix: checkMatrix(fields.matrix) };
}
