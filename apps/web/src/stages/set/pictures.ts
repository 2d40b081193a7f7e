import { SEGMENT, STRIDE, type Spine } from '@true-nib/core/curve';
import {
  pullLines,
  seeingAll,
  SHAPES,
  solidsOf,
  withPoints,
  type BlockEntity,
  type BlockKind,
  type BlockShape,
  type Eye,
} from '@true-nib/core/set';
import { CAMERA_DEEDS, type CameraDeed } from './setStore';

/** CSS px of a small drawing. */
const BOX = { minX: 0, minY: 0, maxX: 44, maxY: 30 } as const;
const NIB = { name: '', size: 1, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };
const SETTINGS = {
  nibs: { contour: NIB, crease: NIB },
  ...{ crease: 0.4, fall: 0, over: 0, halo: 0, dash: 2 },
};

/** A camera that looks down at a corner. */
const FROM_ABOVE: Eye = {
  eye: [-4, -6, 4],
  look: {
    centre: { x: 22, y: 15 },
    focal: 90,
    axes: axesOf(Math.PI / 3, -0.45),
  },
};

/** The axes of a set as a level camera has them that heads round z, then is tilted upwards. */
function axesOf(heading: number, tilt: number): Eye['look']['axes'] {
  const [c, s] = [Math.cos(heading), Math.sin(heading)];
  const [ct, st] = [Math.cos(tilt), Math.sin(tilt)];
  const tilted = ([x, y, z]: readonly [number, number, number]) => [x, y * ct + z * st, z * ct - y * st] as const;
  return { right: tilted([s, 0, c]), left: tilted([-c, 0, s]), height: tilted([0, -1, 0]) };
}

const block = (shape: BlockShape): BlockEntity => ({
  ...{
    kind: 'block',
    id: 'picture',
    setId: 'picture',
    order: 'a0',
    name: '',
    shape,
    at: [0, 0, 0],
    turn: [0, 0, 0, 1],
  },
  ...{ hidden: false, locked: false, lines: 'all' },
});

const path = ({ points: p }: Spine): string => {
  const at = (k: number) => `${p[k].toFixed(1)} ${p[k + 1].toFixed(1)}`;
  let d = `M${at(0)}`;
  for (let k = STRIDE; k < p.length; k += SEGMENT) d += `C${at(k)} ${at(k + STRIDE)} ${at(k + 2 * STRIDE)}`;
  return d;
};

/** Lines as path data. */
export const linesPath = (lines: readonly { readonly stroke: { readonly spine: Spine } }[]): string =>
  lines.map(({ stroke }) => path(stroke.spine)).join('');

/** A shape as a small line drawing, its own hidden lines gone. */
export function shapePicture(shape: BlockShape, camera = FROM_ABOVE): string {
  const blocks = [block(shape)];
  const seen = seeingAll(camera, solidsOf(blocks), BOX);
  return linesPath(pullLines(blocks, seen, SETTINGS, BOX));
}

/** As it is shown: an opening says more of a wall than a bare one does. */
const SHOWN: Readonly<Partial<Record<BlockKind, BlockShape>>> = {
  wall: {
    kind: 'wall',
    size: [4, 0.5, 2.8],
    openings: [
      { at: [-1, 0], size: [0.9, 2], arched: true },
      { at: [0.9, 0.9], size: [1, 1], arched: false },
    ],
  },
  fence: { kind: 'fence', size: [3.2, 0.3, 1.6], posts: 4, rails: 2 },
  stair: { kind: 'stair', size: [1.6, 2.4, 1.8], steps: 4 },
};

let shapes: { readonly value: BlockKind; readonly label: string; readonly picture: string }[] | undefined;

/** The shapes that can be laid, as small drawings. Made when they are first seen. */
export function shapeOptions() {
  shapes ??= (Object.keys(SHAPES) as BlockKind[]).flatMap((kind) => {
    const shape = SHOWN[kind] ?? SHAPES[kind].fresh;
    return shape ? [{ value: kind, label: SHAPES[kind].label, picture: shapePicture(shape) }] : [];
  });
  return shapes;
}

const CUBE: BlockShape = { kind: 'box', size: [2, 2, 2] };

/** A cube in one-, two- and three-point perspective. */
export function pointOptions() {
  const steep: Eye = { ...FROM_ABOVE, look: { ...FROM_ABOVE.look, focal: 34 } };
  const seen = seeingAll(steep, solidsOf([block(CUBE)]), BOX);
  return ([1, 2, 3] as const).map((points) => {
    const standing = solidsOf([block(CUBE)]);
    const turned = points === 3 ? seen : withPoints(seen, points, [0, 0, 1], { x: 22, y: 15 });
    const lines = pullLines([block(CUBE)], seeingAll(turned, standing, BOX), SETTINGS, BOX);
    return {
      value: `${points}` as '1' | '2' | '3',
      label: ['One', 'Two', 'Three'][points - 1],
      picture: linesPath(lines),
    };
  });
}

/** What a drag does to the camera, as an arrow beside it. */
const DEED_PICTURES: Readonly<Record<CameraDeed, string>> = {
  orbit: 'M8 18C8 11 36 11 36 18C36 22 28 24 22 24M26 21L22 24L26 27M19 9H25V15H19Z',
  move: 'M22 4V26M18 8L22 4L26 8M18 22L22 26L26 22M8 15H36M12 11L8 15L12 19M32 11L36 15L32 19',
  dolly: 'M6 25L20 13M20 13L14 14M20 13L19 19M26 4H40V14H26Z',
  turn: 'M14 24L22 12L30 24M8 12C14 4 30 4 36 12M36 12L35 6M36 12L30 11',
  roll: 'M10 20C6 6 32 0 36 14M36 14L38 8M36 14L30 12M17 14L29 18L27 24L15 20Z',
};

export const deedOptions = (labels: Readonly<Record<CameraDeed, string>>) =>
  CAMERA_DEEDS.map((value) => ({ value, label: labels[value], picture: DEED_PICTURES[value] }));
