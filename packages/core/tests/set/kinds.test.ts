import { checkEntity } from '../../src/page';
import { PageError } from '../../src/gate';
import {
  BLOCK_LIMITS,
  SHAPES,
  sizedBySide,
  sidesOf,
  sizeOf,
  snapAlong,
  turnedBlock,
  type BlockKind,
  type BlockShape,
} from '../../src/set';
import { block, OVER } from './scenes';

const good = block('b', { kind: 'box', size: [1, 2, 3] });
const wall = { kind: 'wall', size: [4, 0.3, 3], openings: [] } as const;
const shape = (value: unknown) => ({ ...good, shape: value });

describe('blocks at the gate', () => {
  it('lets every fresh shape through as it is', () => {
    for (const kind of Object.keys(SHAPES) as BlockKind[]) {
      const { fresh } = SHAPES[kind];
      if (fresh) expect(checkEntity(block(kind, fresh))).toEqual(block(kind, fresh));
    }
  });

  it.each([
    ['no size', shape({ kind: 'box', size: [1, 0, 1] }), /depth/],
    ['NaN', shape({ kind: 'box', size: [NaN, 1, 1] }), /width/],
    ['a shape that is not there', shape({ kind: 'pyramid' }), /one of box/],
    ['too many steps', shape({ kind: 'stair', size: [1, 1, 1], steps: 1e9 }), /steps/],
    ['a profile across its axis', shape({ kind: 'turned', profile: [-1, 0, 1, 1] }), /one side of its axis/],
    ['a profile of one place', shape({ kind: 'turned', profile: [1, 0] }), /two places/],
    [
      'an outline of two corners',
      shape({ kind: 'extruded', rings: [[0, 0, 1, 1]], smooth: false, height: 1 }),
      /three corners/,
    ],
    [
      'a flat outline',
      shape({ kind: 'extruded', rings: [[0, 0, 1, 0, 2, 0]], smooth: false, height: 1 }),
      /no width or no depth/,
    ],
    [
      'an opening wider than its wall',
      shape({ ...wall, openings: [{ at: [0, 0], size: [5, 1], arched: false }] }),
      /does not fit the wall/,
    ],
    [
      'an arch lower than half its width',
      shape({ ...wall, openings: [{ at: [0, 0], size: [2, 0.5], arched: true }] }),
      /too low for its arch/,
    ],
    [
      'two openings in each other',
      shape({
        ...wall,
        openings: [
          { at: [0, 0], size: [1, 2], arched: false },
          { at: [0.4, 0.5], size: [1, 1], arched: false },
        ],
      }),
      /runs into another/,
    ],
    ['no turn', { ...good, turn: [0, 0, 0, 0] }, /quaternion/],
    ['a model without bytes', shape({ kind: 'mesh', blob: 'x', triangles: 1, scale: 1, size: [1, 1, 1] }), /SHA-256/],
    [
      'a model over the limit',
      shape({ kind: 'mesh', blob: '0'.repeat(64), triangles: BLOCK_LIMITS.triangles + 1, scale: 1, size: [1, 1, 1] }),
      /triangles/,
    ],
  ])('refuses %s', (_name, value, reason) => {
    expect(() => checkEntity(value)).toThrow(PageError);
    expect(() => checkEntity(value)).toThrow(reason);
  });

  it('refuses a camera whose axes are no axes, and lets a good one through', () => {
    const camera = {
      ...{ kind: 'camera', id: 'c', setId: 'set', order: 'a0', name: 'Camera', seen: true, opacity: 0.5 },
      ...OVER,
    };
    // To the last digit, or the server would have another one than the tab.
    expect(checkEntity(camera)).toEqual(camera);
    const bent = { ...OVER.look, axes: { ...OVER.look.axes, left: OVER.look.axes.right } };
    expect(() => checkEntity({ ...camera, look: bent })).toThrow(/right angles/);
    expect(() => checkEntity({ ...camera, eye: [0, 0, Infinity] })).toThrow(/eye/);
  });
});

describe('sizing and placing', () => {
  it('pulls a side out and leaves the opposite one where it is', () => {
    for (const side of sidesOf(good)) {
      const opposite = sidesOf(good).find(({ axis, sign }) => axis === side.axis && sign !== side.sign);
      const pulled = sizedBySide(turnedBlock(good, 0), side, 0.5);
      expect(sizeOf(pulled.shape)[side.axis]).toBeCloseTo(sizeOf(good.shape)[side.axis] + 0.5, 9);
      const still = sidesOf(pulled).find(({ axis, sign }) => axis === side.axis && sign !== side.sign);
      still?.at.forEach((value, k) => expect(value).toBeCloseTo(opposite?.at[k] ?? NaN, 9));
    }
  });

  it('keeps what is round round', () => {
    const post = block('post', { kind: 'cylinder', radius: 0.5, height: 2 });
    const [side] = sidesOf(post);
    expect(sizeOf(sizedBySide(post, side, 1).shape)).toEqual([2, 2, 2]);
  });

  it('never makes a side shorter than nothing', () => {
    const [side] = sidesOf(good);
    expect(sizeOf(sizedBySide(good, side, -50).shape)[side.axis]).toBeGreaterThan(0);
  });

  it('snaps flush, onto middles, and equally far', () => {
    const cube: BlockShape = { kind: 'box', size: [1, 1, 1] };
    const row = [block('a', cube, [0, 0, 0]), block('b', cube, [3, 0, 0])];
    expect(snapAlong(block('c', cube, [1.04, 5, 0]), row, [1, 0, 0], 0.1)).toMatchObject({ to: 'side' });
    expect(snapAlong(block('c', { kind: 'box', size: [0.4, 1, 1] }, [3.05, 5, 0]), row, [1, 0, 0], 0.1)).toMatchObject({
      to: 'middle',
    });
    const equal = snapAlong(block('c', cube, [6.07, 5, 0]), row, [1, 0, 0], 0.1);
    expect(equal?.to).toBe('equal');
    expect(equal?.by).toBeCloseTo(-0.07, 9);
    expect(snapAlong(block('c', cube, [9, 5, 0]), row, [1, 0, 0], 0.1)).toBeUndefined();
  });
});
