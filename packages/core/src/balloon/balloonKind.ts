import {
  checkMatrix,
  checkSpine,
  colour,
  list,
  number,
  oneOf,
  optional,
  PageError,
  place,
  record,
  type Fields,
} from '../gate';
import { checkLaid, laidCopy, laidRefs, type Kind } from '../kind';
import { checkNib, type InkStyle } from '../nib';
import { BODY_SHAPES, TAIL_KINDS, type BalloonEntity, type Body, type Bridge, type Tail } from './types';

/** What one balloon may have; lengths in page px. */
export const BALLOON_LIMITS = { bodies: 20, tails: 40, size: { least: 1, most: 50_000 } } as const;

/** What a balloon is. */
export const balloonKind: Kind<BalloonEntity> = {
  isMany: false,
  most: { count: 2_000, inWords: 'A page holds at most 2,000 balloons.' },
  check: checkBalloon,
  refs: laidRefs,
  remap: laidCopy,
  laidDown: styledBalloon,
};

function checkBalloon(fields: Fields): BalloonEntity {
  const bodies = list(fields.bodies, 'bodies', BALLOON_LIMITS.bodies).map(checkBody);
  if (bodies.length === 0) throw new PageError('A balloon has a body at least.');
  const body = (value: unknown, name: string) => {
    const index = number(value, name, 0, bodies.length - 1);
    if (!Number.isInteger(index)) throw new PageError('A tail grows from a body.');
    return index;
  };
  return {
    kind: 'balloon',
    ...checkLaid(fields),
    bodies,
    tails: list(fields.tails, 'tails', BALLOON_LIMITS.tails).map((value): Tail => {
      const tail = record(value, 'A tail');
      return {
        kind: oneOf(tail.kind, 'kind', TAIL_KINDS),
        body: body(tail.body, 'body'),
        root: number(tail.root, 'root', -1e3, 1e3),
        width: number(tail.width, 'width', 0.1, BALLOON_LIMITS.size.most),
        tip: place(record(tail.tip, 'A tip')),
        bend: number(tail.bend, 'bend', -2, 2),
      };
    }),
    ...optional(fields, 'bridges', (value) =>
      list(value, 'bridges', BALLOON_LIMITS.bodies).map((one): Bridge => {
        const bridge = record(one, 'A bridge');
        const [a, b] = list(bridge.between, 'between', 2);
        return {
          between: [body(a, 'between'), body(b, 'between')],
          width: number(bridge.width, 'width', 0.1, BALLOON_LIMITS.size.most),
        };
      }),
    ),
    ...optional(fields, 'border', checkNib),
    ...optional(fields, 'ground', colour),
  };
}

function checkBody(value: unknown): Body {
  const fields = record(value, 'A body');
  const { least, most } = BALLOON_LIMITS.size;
  const shape = oneOf(fields.shape, 'shape', BODY_SHAPES);
  const ring = fields.ring === undefined ? undefined : checkSpine(fields.ring);
  if (shape === 'own' && !ring?.closed) throw new PageError('A balloon of your own shape needs a closed course.');
  return {
    shape,
    width: number(fields.width, 'width', least, most),
    height: number(fields.height, 'height', least, most),
    place: checkMatrix(fields.place),
    ...(shape === 'own' && ring && { ring }),
  };
}

const shown = new WeakMap<BalloonEntity, { readonly style: InkStyle; readonly balloon: BalloonEntity }>();

/** A balloon under a layer's style: its border in the layer's colour and weight. The one last asked for is kept. */
function styledBalloon(balloon: BalloonEntity, style: InkStyle | undefined): BalloonEntity {
  const { border } = balloon;
  if (!style || !border || (style.color === undefined && style.widthFactor === 1)) return balloon;
  const known = shown.get(balloon);
  if (known?.style === style) return known.balloon;
  const nib = { ...border, size: border.size * style.widthFactor, color: style.color ?? border.color };
  const styled: BalloonEntity = { ...balloon, border: nib };
  shown.set(balloon, { style, balloon: styled });
  return styled;
}
