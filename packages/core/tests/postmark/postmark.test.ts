import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { DRAWN, gapTo, holdOfAll, isDrawn, mapped, markBox } from '../../src/drawn';
import { drawnToSvg, pageToSvg, svgToDrawn } from '../../src/formats';
import { ChangeConflict, PageError, sameValue } from '../../src/gate';
import { applyProjective, projectiveOf, translation, type Matrix3x3 } from '../../src/math';
import {
  applyChange,
  checkEntity,
  deleteLayers,
  duplicateLayers,
  find,
  historyOf,
  invertChange,
  KINDS,
  mergeLayers,
  needsOf,
  newPage,
  refsOf,
  type EntityKind,
} from '../../src/page';
import { foundInLoop, foundInRect } from '../../src/select';
import { liftedEdits } from '../../src/tools';
import { entitiesIn, fromJson, joinParts, pack, toJson, unpackEntity } from '../../src/wire';
import { liner } from '../hands';
import { adding, change, layer, stroke } from '../page/entities';
import { asPostmark, issuePostmarks, postmark } from './postmark';

// A kind that exists in tests alone goes through everything by its two rows.
const takeBack = issuePostmarks();
afterAll(takeBack);

const blank = newPage({ width: 400, height: 400, ppi: 300 });
const inks = layer('inks');
const page = applyChange(blank, change(adding(inks, stroke('line'), postmark({ cancels: 'line' }))));
const keep = { scaleWidth: false };

describe('a kind with a row in each table', () => {
  it('passes the gate, as JSON and packed, and names the field that is wrong', () => {
    const mark = postmark({ cancels: 'line' });
    expect(checkEntity(fromJson(JSON.parse(JSON.stringify(toJson(mark)))))).toEqual(mark);
    expect(unpackEntity(pack(mark))).toEqual(mark);
    expect(() => checkEntity({ ...mark, town: 7 })).toThrow(/"town" needs a text/);
    expect(() => checkEntity({ ...mark, town: 7 })).toThrow(PageError);
  });

  it('travels in parts, and is left out unread by whoever does not want it', () => {
    const parts = joinParts([pack(postmark()), pack(stroke('line'))]);
    expect([...entitiesIn(parts)].map(({ id }) => id)).toEqual(['mark', 'line']);
    const others = (kind: EntityKind) => String(kind) !== 'postmark';
    expect([...entitiesIn(parts, others)].map(({ id }) => id)).toEqual(['line']);
  });

  it('is added, changed, taken back and conflicts as any other', () => {
    const before = page.entities.get('mark') ?? null;
    const blue = change([{ before, after: postmark({ cancels: 'line', color: '#2a6f97' }) }]);
    const changed = applyChange(page, blue);
    expect(asPostmark(changed.entities.get('mark')).color).toBe('#2a6f97');
    const undo = invertChange(blue);
    expect(sameValue(applyChange(changed, undo).entities.get('mark'), before)).toBe(true);
    expect(() => applyChange(changed, blue)).toThrow(ChangeConflict);
    expect(historyOf([blue, undo], 'me').undone).toHaveLength(1);
  });

  it('needs its layer, and only remembers the line that it cancels', () => {
    expect(needsOf(adding(postmark({ cancels: 'line' })))).toEqual(['inks']);
    expect(needsOf(adding(inks, postmark()))).toEqual([]);
    // What takes it away can be taken back only while its layer is there.
    expect(needsOf([{ before: postmark(), after: null }])).toEqual(['inks']);
    expect(refsOf(postmark({ cancels: 'line' }))).toMatchObject({
      knows: ['line'],
      blobs: [{ sha256: 'cd'.repeat(32), as: 'picture' }],
    });
  });

  it('is copied with its layer: what it refers to there is what was copied along', () => {
    let count = 0;
    const copied = duplicateLayers(page, ['inks'], () => `copy-${++count}`);
    const after = applyChange(page, copied);
    const added = copied.edits.flatMap(({ after: entity }) => entity ?? []);
    const line = added.find(({ kind }) => kind === 'stroke');
    const copy = asPostmark(added.find(({ kind }) => String(kind) === 'postmark'));
    expect(copy).toMatchObject({ town: 'Saltmarsh', layerId: added.find(({ kind }) => kind === 'layer')?.id });
    expect(copy.cancels).toBe(line?.id);
    expect(copy.id).not.toBe('mark');
    expect(after.entities.size).toBe(2 * page.entities.size);
  });

  it('goes where its layer is merged to, and goes with its layer', () => {
    const two = applyChange(page, change(adding(layer('above', 'a1'))));
    const moved = applyChange(two, change(adding(postmark({ id: 'other', layerId: 'above' }))));
    const merged = applyChange(moved, mergeLayers(moved, ['inks', 'above']));
    expect(asPostmark(merged.entities.get('other')).layerId).toBe('inks');
    expect(applyChange(page, deleteLayers(page, ['inks'])).entities.size).toBe(0);
  });

  it('is found by loop, by rectangle and by touch, and lifted', () => {
    const all = [postmark()];
    const loop = [
      { x: 60, y: 60 },
      { x: 340, y: 60 },
      { x: 340, y: 340 },
      { x: 60, y: 340 },
    ];
    expect(foundInLoop(all, loop, { whole: true })).toHaveLength(1);
    expect(
      foundInLoop(
        all,
        [...loop].map(({ x, y }) => ({ x: x + 400, y })),
      ),
    ).toHaveLength(0);
    expect(foundInRect(all, { minX: 0, minY: 0, maxX: 110, maxY: 400 })).toHaveLength(1);
    expect(foundInRect(all, { minX: 0, minY: 0, maxX: 110, maxY: 400 }, { whole: true })).toHaveLength(0);
    const touch = { x: 200, y: 200 };
    expect(gapTo(postmark(), touch, touch, 10)).toBeLessThanOrEqual(0);
    expect(gapTo(postmark(), { x: 320, y: 200 }, { x: 320, y: 210 }, 30)).toBeCloseTo(20, 0);
    expect(liftedEdits(all, touch, touch, 10)).toEqual([{ before: all[0], after: null }]);
  });

  it('is moved, and pulled in perspective, to where the map takes every point of it', () => {
    const [moved] = mapped([postmark()], projectiveOf(translation(30, -20)), keep);
    expect(holdOfAll([moved]).minX).toBeCloseTo(130, 6);
    const pull: Matrix3x3 = [1, 0.1, 5, 0.05, 0.9, 8, 0.0004, 0.0002, 1];
    const [pulled] = mapped([postmark()], pull, keep);
    const rim = applyProjective(pull, 300, 200);
    const box = markBox(pulled);
    expect(Math.abs(box.maxX - rim.x)).toBeLessThan(3);
    expect(asPostmark(pulled).map).toEqual(expect.not.arrayContaining([NaN]));
    expect(() => mapped([postmark()], [1, 0, 0, 0, 1, 0, -0.02, 0, 1], keep)).toThrow(/horizon/);
    expect(() => mapped([postmark()], [1, 0, 0, 0, 0, 0, 0, 0, 1], keep)).toThrow(/flatten/);
  });

  it('is copied to the clipboard as SVG and comes back, without what only its page knows', () => {
    const [back] = svgToDrawn(drawnToSvg([postmark({ cancels: 'line' })]), liner);
    const { id: _id, layerId: _layer, order: _order, cancels: _line, ...own } = asPostmark(back);
    expect(asPostmark(postmark())).toMatchObject(own);
    expect(asPostmark(back).cancels).toBeUndefined();
  });

  it('is delivered as SVG: its rule, what clips it, and what it cuts out of the lines beneath', async () => {
    const across = stroke('across');
    const wide = {
      ...across,
      spine: { ...across.spine, points: Float64Array.of(0, 260, 60, 130, 260, 60, 260, 260, 60, 400, 260, 60) },
    };
    const drawn = applyChange(blank, change(adding(inks, wide, postmark())));
    const svg = pageToSvg(drawn);
    // Source of the picture: librsvg, by sharp.
    const { data } = await sharp(Buffer.from(svg))
      .resize(400, 400)
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number) => [...data.subarray(3 * (y * 400 + x), 3 * (y * 400 + x) + 3)];
    const off = (x: number, y: number, color: readonly number[]) =>
      Math.max(...at(x, y).map((value, k) => Math.abs(value - color[k])));
    const [paper, half] = [
      [255, 255, 255],
      [0xdb, 0xa0, 0x95],
    ];
    expect(off(200, 110, [0xb8, 0x40, 0x2a])).toBe(0);
    expect(off(200, 200, half)).toBeLessThan(2);
    expect(off(200, 215, paper)).toBe(0);
    expect(off(60, 200, paper)).toBe(0);
    expect(off(200, 260, [0x14, 0x16, 0x1a])).toBe(0);
    expect(off(260, 260, paper)).toBe(0);
    // What cuts, cuts only inside what clips it.
    expect(off(200, 275, paper)).toBe(0);
    expect(off(300, 275, [0x14, 0x16, 0x1a])).toBe(0);
  });

  it('is known to no file of the product', () => {
    const root = join(__dirname, '../../../..');
    const sources = ['packages/core/src', 'apps/web/src', 'apps/server/src'].flatMap((folder) =>
      readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' }).map((file) => join(root, folder, file)),
    );
    const files = sources.filter((file) => /\.tsx?$/.test(file));
    expect(files.length).toBeGreaterThan(300);
    expect(files.filter((file) => /postmark/i.test(readFileSync(file, 'utf8')))).toEqual([]);
  });
});

describe('a kind without its row', () => {
  it('does not compile', () => {
    type Later = EntityKind | 'postmark';
    // @ts-expect-error The table of what kinds are lacks a row.
    const kinds: Readonly<Record<Later, unknown>> = KINDS as { readonly [K in EntityKind]: unknown };
    // @ts-expect-error The table of how kinds are drawn lacks a row.
    const drawn: Readonly<Record<Later, unknown>> = DRAWN as { readonly [K in EntityKind]: unknown };
    expect(Object.keys(kinds).sort()).toEqual(Object.keys(drawn).sort());
  });

  it('is no kind', () => {
    expect(() => checkEntity({ kind: 'parcel', id: 'p' })).toThrow(/no kind of entity called "parcel"/);
    expect(isDrawn(find(page, 'layer', 'inks'))).toBe(false);
  });
});
