import { applyChange, draftChange, find, newPage, ofKind, type Change, type Edit, type Page } from '../../src/page';
import { frameChange } from '../../src/guides';
import { applyProjective } from '../../src/math';
import { orbited, turnedEye, type BlockEntity, type CameraEntity } from '../../src/set';
import {
  addBlocks,
  addCamera,
  blocksOf,
  camerasOf,
  changeBlocks,
  checkSetFile,
  followEdits,
  handFrame,
  isWorkedOn,
  laySet,
  laySetFile,
  letFrameGo,
  matched,
  pulledEdits,
  readSetFile,
  removeSet,
  setFileOf,
  setFileText,
  setsOn,
  turnEdits,
  withGroups,
} from '../../src/staging';
import { pullLines } from '../../src/set';
import { block, framed, PAGE, PLAIN, SIZE } from '../set/scenes';

let count = 0;
const newId = () => `id-${++count}`;
const made = (page: Page, ...changes: readonly Change[]): Page => changes.reduce(applyChange, page);
const done = (page: Page, edits: readonly Edit[]): Page => applyChange(page, draftChange('Edit', edits));

/** A page with a set of two boxes, and the camera that looks at it. */
function withSet() {
  const laid = made(newPage({ ...SIZE, ppi: 300 }), laySet(newPage({ ...SIZE, ppi: 300 }), newId));
  const [set] = setsOn(laid);
  const boxes: BlockEntity[] = [
    block('a', { kind: 'box', size: [2, 2, 2] }),
    block('b', { kind: 'box', size: [1, 1, 3] }, [3, 0, 0]),
  ];
  const page = made(laid, addBlocks(laid, set.id, boxes, newId, 'Boxes'));
  return { page, setId: set.id, camera: camerasOf(page, set.id)[0] };
}

const linesOf = (page: Page, camera: CameraEntity) => pullLines(blocksOf(page, camera.setId), camera, PLAIN, PAGE);
const options = { settings: PLAIN, newId, follows: true };
const cameraOn = (page: Page, { id }: CameraEntity) => find(page, 'camera', id) as CameraEntity;

/** The page with its lines pulled. */
function pulledOnce() {
  const { page, camera, setId } = withSet();
  const { edits } = pulledEdits(page, camera, linesOf(page, camera), options);
  return { page: done(page, edits), camera, setId };
}

describe('pulled lines', () => {
  it('lie on an Ink layer of their own, one change, and know their edges', () => {
    const { page, camera } = pulledOnce();
    const strokes = ofKind(page, 'stroke');
    expect(strokes.length).toBeGreaterThan(12);
    expect(new Set(strokes.map(({ layerId }) => layerId)).size).toBe(1);
    expect(new Set(strokes.map(({ pulled }) => pulled?.edge)).size).toBe(strokes.length);
    expect(strokes.some(isWorkedOn)).toBe(false);
    expect(cameraOn(page, camera).pulled?.layerId).toBe(strokes[0].layerId);
  });

  it('follow the camera: the same edge is the same line, and nothing is left of those that are gone', () => {
    const { page, camera } = pulledOnce();
    const eye = orbited(camera, [0, 0, 1], { yaw: 0.4 });
    const turned = { ...camera, ...eye };
    const next = done(page, followEdits(page, cameraOn(page, camera), eye, linesOf(page, turned), newId).edits);
    expect(cameraOn(next, camera).eye).toEqual(eye.eye);
    const [before, after] = [ofKind(page, 'stroke'), ofKind(next, 'stroke')];
    const kept = after.filter(({ id }) => before.some((one) => one.id === id));
    expect(kept.length).toBeGreaterThan(6);
    for (const stroke of kept)
      expect(before.find(({ id }) => id === stroke.id)?.pulled?.edge).toBe(stroke.pulled?.edge);
    expect(after).toHaveLength(linesOf(page, turned).length);
  });

  it('are kept as they are where somebody worked on them, and told', () => {
    const { page, camera } = pulledOnce();
    const [line, other] = ofKind(page, 'stroke');
    const points = line.spine.points.map((value, k) => (k === 1 ? value + 4 : value));
    const worked = done(page, [
      { before: line, after: { ...line, spine: { ...line.spine, points } } },
      { before: other, after: { ...other, nib: { ...other.nib, color: '#ff0000' } } },
    ]);
    const eye = turnedEye(camera, { tilt: -0.05 });
    const lines = linesOf(worked, { ...camera, ...eye });
    const { edits, kept } = followEdits(worked, cameraOn(worked, camera), eye, lines, newId);
    expect(kept).toBe(2);
    const next = done(worked, edits);
    expect(find(next, 'stroke', line.id)?.spine.points).toEqual(points);
    expect(find(next, 'stroke', other.id)?.nib.color).toBe('#ff0000');
    // No second line for an edge that somebody has drawn his own of.
    const edges = ofKind(next, 'stroke').map(({ pulled }) => pulled?.edge);
    expect(new Set(edges).size).toBe(edges.length);
  });

  it('are lines like any other where they are not to follow', () => {
    const { page, camera } = withSet();
    const next = done(page, pulledEdits(page, camera, linesOf(page, camera), { ...options, follows: false }).edits);
    expect(ofKind(next, 'stroke').every(({ pulled }) => pulled === undefined)).toBe(true);
    expect(cameraOn(next, camera).pulled).toBeUndefined();
  });

  it('are not pulled onto a locked layer', () => {
    const { page, camera } = pulledOnce();
    const layer = find(page, 'layer', cameraOn(page, camera).pulled?.layerId ?? '');
    if (!layer) throw new Error('The lines have a layer.');
    const locked = done(page, [{ before: layer, after: { ...layer, locked: true } }]);
    expect(() => pulledEdits(locked, cameraOn(locked, camera), [], options)).toThrow(/locked/);
  });

  it('stay when their set is deleted', () => {
    const { page, setId } = pulledOnce();
    const next = made(page, removeSet(page, setId));
    expect(ofKind(next, 'stroke')).toHaveLength(ofKind(page, 'stroke').length);
    expect([ofKind(next, 'set'), ofKind(next, 'block'), ofKind(next, 'camera')].flat()).toHaveLength(0);
  });
});

describe('the frame of a camera', () => {
  it('follows it until it is let go, and its change carries what was drawn on it', () => {
    const { page, camera } = withSet();
    const handed = made(page, handFrame(page, camera.id, newId));
    const [guide] = ofKind(handed, 'guide');
    const before = guide.shape;
    const turned = done(handed, turnEdits(handed, cameraOn(handed, camera), turnedEye(camera, { yaw: 0.1 })));
    const after = find(turned, 'guide', guide.id)?.shape;
    if (before.kind !== 'frame' || after?.kind !== 'frame') throw new Error('It is a frame.');
    const map = frameChange(before, after, page.size);
    if (!map) throw new Error('Both have cameras.');
    const [x, y, w] = before.points.right;
    const [u, v] = after.points.right;
    if (w === 1) expect(applyProjective(map, x, y).x).toBeCloseTo(u, 3);
    expect(Number.isFinite(v)).toBe(true);
    const free = made(turned, letFrameGo(turned, camera.id));
    const last = done(free, turnEdits(free, cameraOn(free, camera), turnedEye(camera, { yaw: 0.5 })));
    expect(find(last, 'guide', guide.id)?.shape).toEqual(after);
  });

  it('and the other way round: the set stands where a sighted frame has its corner', () => {
    const { page, camera } = withSet();
    const eye = matched(camera, framed, page, camera);
    const back = handFrame(done(page, [{ before: camera, after: { ...camera, ...eye } }]), camera.id, newId);
    const guide = back.edits.map(({ after }) => after).find((entity) => entity?.kind === 'guide');
    if (guide?.kind !== 'guide' || guide.shape.kind !== 'frame') throw new Error('It hands over a frame.');
    expect(guide.shape.corner.x).toBeCloseTo(framed.corner.x, 6);
    expect(guide.shape.corner.y).toBeCloseTo(framed.corner.y, 6);
    const far = (points: typeof framed.points) =>
      [points.right, points.left].map(([x]) => Math.round(x)).sort((a, b) => a - b);
    expect(far(guide.shape.points)).toEqual(far(framed.points));
  });
});

describe('a set as a file', () => {
  it('comes back with all its blocks, groups and cameras, scaled to the page that it is put on', () => {
    const { page, setId, camera } = withSet();
    const grouped = made(
      page,
      changeBlocks(
        page,
        blocksOf(page, setId).map(({ id }) => id),
        'Group',
        (one) => ({ ...one, group: 'g' }),
      ),
    );
    const file = readSetFile(setFileText(setFileOf(grouped, setId)));
    const small = newPage({ width: 800, height: 500, ppi: 300 });
    const next = made(small, laySetFile(small, file, newId));
    const [set] = setsOn(next);
    expect(blocksOf(next, set.id).map(({ shape, at }) => ({ shape, at }))).toEqual(
      blocksOf(page, setId).map(({ shape, at }) => ({ shape, at })),
    );
    const [first, second] = blocksOf(next, set.id);
    expect(first.group).toBe(second.group);
    expect(first.group).not.toBe('g');
    expect(withGroups([first, second], [first.id])).toHaveLength(2);
    const [other] = camerasOf(next, set.id);
    expect(other.look.focal).toBeCloseTo(camera.look.focal / 2, 6);
    expect(other.look.centre.x).toBeCloseTo(camera.look.centre.x / 2, 6);
  });

  it.each([
    ['no text', '{', /cannot be read/],
    ['something else', '{"format":"other"}', /no set of True Nib/],
    ['a later version', '{"format":"true-nib-set","version":9}', /later version/],
    [
      'a set without a name',
      '{"format":"true-nib-set","version":1,"set":{"light":{"round":0,"above":0},"id":"a","order":"a"}}',
      /name/,
    ],
  ])('is refused where it is %s', (_name, text, reason) => {
    expect(() => readSetFile(text)).toThrow(reason);
  });

  it('is refused where a block belongs to another set, or no camera looks at it', () => {
    const { page, setId } = withSet();
    const file = JSON.parse(setFileText(setFileOf(page, setId)));
    const strange = { ...file, blocks: file.blocks.map((one: object) => ({ ...one, setId: 'other' })) };
    expect(() => checkSetFile(strange)).toThrow(/belongs to another set/);
    expect(() => laySetFile(page, checkSetFile({ ...file, cameras: [] }), newId)).toThrow(/No camera/);
  });
});

it('lets locked blocks be, and says so where all are', () => {
  const { page, setId } = withSet();
  const ids = blocksOf(page, setId).map(({ id }) => id);
  const locked = made(
    page,
    changeBlocks(page, [ids[0]], 'Lock', (one) => ({ ...one, locked: true })),
  );
  expect(changeBlocks(locked, ids, 'Hide', (one) => ({ ...one, hidden: true })).edits).toHaveLength(1);
  expect(() => changeBlocks(locked, [ids[0]], 'Hide', (one) => one)).toThrow(/is locked/);
});

it('looks at one set with several cameras, each with a name of its own', () => {
  const { page, camera, setId } = withSet();
  const next = made(page, addCamera(page, camera, newId(), undefined));
  expect(new Set(camerasOf(next, setId).map(({ name }) => name)).size).toBe(2);
});
