import {
  applyChange,
  draftChange,
  find,
  invertChange,
  newLayer,
  newPage,
  ofKind,
  TRACE_SETTINGS,
  checkEntity,
  type LayerEntity,
  type Page,
  type PictureEntity,
  type TraceRecord,
} from '../../src/page';
import { centreLines, layTrace, layTraceAnew, letTraceGo, pixelsNow, withSaid, type Traced } from '../../src/trace';
import { inkFrom } from './scans';

const CROSS =
  '<path d="M40 40 L260 220 M40 220 L260 40 M40 270 H260" stroke="#000" stroke-width="6" stroke-linecap="round" fill="none"/>';

const RECORD: TraceRecord = {
  ...{ from: 'scan', name: 't', map: [2, 0, 0, 2, 10, 20], takes: 'lines' },
  ...{ settings: TRACE_SETTINGS, said: [] },
  pixels: { as: 'picture', blob: 'a'.repeat(64), width: 300, height: 300 },
};

const SCAN: PictureEntity = {
  ...{ kind: 'picture', id: 'scan', layerId: 'rough', order: 'a0' },
  ...{ blob: 'a'.repeat(64), width: 300, height: 300, opacity: 1, tint: 'none' },
  placement: { x: 310, y: 320, scale: 2, angle: 0 },
};

async function laid(): Promise<{
  page: Page;
  layer: LayerEntity;
  traced: Traced;
  again: (said: TraceRecord['said']) => Traced;
}> {
  const raster = await inkFrom(CROSS, 300, 300);
  const traced = centreLines(raster, TRACE_SETTINGS);
  const { edits } = layTrace(newPage({ width: 640, height: 640, ppi: 300 }), RECORD, traced, {
    layerId: 'lines',
    color: '#111111',
  });
  const page = applyChange(newPage({ width: 640, height: 640, ppi: 300 }), draftChange('Trace', edits));
  const layer = find(page, 'layer', 'lines');
  if (!layer) throw new Error('A tracing has a layer.');
  return { page, layer, traced, again: (said) => centreLines(raster, TRACE_SETTINGS, said) };
}

const anew = ({ traced, again }: Awaited<ReturnType<typeof laid>>) => {
  const [junction] = traced.places.filter(({ kind }) => kind === 'junction');
  const word = junction.choices.find((choice) => choice.as === 'junction' && choice.pairs.length === 0);
  if (!word) throw new Error('All four may end there.');
  const record = { ...RECORD, said: withSaid([], word, 4) };
  return { record, before: traced, after: again(record.said) };
};

describe('A tracing on a page', () => {
  it('is an Ink layer of strokes as wide as they were measured, where the picture lies; the gate lets all of it pass', async () => {
    const { page, layer } = await laid();
    const strokes = ofKind(page, 'stroke');
    expect(strokes).toHaveLength(3);
    for (const { nib, layerId } of strokes) {
      expect(layerId).toBe(layer.id);
      expect(Math.abs(nib.size - 12)).toBeLessThan(0.3);
    }
    const level = strokes.find(({ spine }) => Math.abs(spine.points[1] - (2 * 270 + 20)) < 1);
    expect(level).toBeDefined();
    for (const entity of page.entities)
      expect(
        checkEntity(
          JSON.parse(
            JSON.stringify(entity, (_, value) =>
              ArrayBuffer.isView(value) ? Array.from(value as Float64Array) : (value as unknown),
            ),
          ),
        ),
      ).toEqual(entity);
  });

  it('dims a rough that is as dark as its lines, and remembers the very pixels that it was taken from', async () => {
    const { traced } = await laid();
    const start = newPage({ width: 640, height: 640, ppi: 300 });
    const rough = newLayer({ id: 'rough', medium: 'rough', name: 'Rough', order: 'a0' });
    const strong = applyChange(
      start,
      draftChange('Bring in', [
        { before: null, after: rough },
        { before: null, after: SCAN },
      ]),
    );
    const { edits } = layTrace(strong, RECORD, traced, { layerId: 'lines', color: '#111111' });
    const after = applyChange(strong, draftChange('Trace', edits));
    expect(find(after, 'picture', 'scan')?.opacity).toBe(0.5);
    expect(pixelsNow(after, 'scan')).toEqual(RECORD.pixels);
    expect(pixelsNow(after, 'lines')).toBeUndefined();
  });

  it('put right changes what hangs on that place alone, and undo takes it back whole', async () => {
    const start = await laid();
    const { page, layer } = start;
    const level = ofKind(page, 'stroke').find(({ spine }) => Math.abs(spine.points[1] - 560) < 1);
    const { edits, kept } = layTraceAnew(page, layer, anew(start));
    expect(kept).toBe(0);
    expect(edits.some(({ before, after }) => (before ?? after)?.id === level?.id)).toBe(false);
    const change = draftChange('Put a junction right', edits);
    const after = applyChange(page, change);
    expect(ofKind(after, 'stroke')).toHaveLength(5);
    expect(find(after, 'layer', 'lines')?.traced?.said).toHaveLength(1);
    const back = applyChange(after, invertChange(change, { id: 'back', by: '', at: 0 }));
    expect(new Set([...back.entities])).toEqual(new Set([...page.entities]));
  });

  it('leaves lines be that were worked on since, and says how many', async () => {
    const start = await laid();
    const { page, layer } = start;
    const edits = ofKind(page, 'stroke').map((before) => ({
      before,
      after: { ...before, spine: { ...before.spine, points: before.spine.points.map((value) => value + 3) } },
    }));
    const tugged = applyChange(page, draftChange('Tug', edits));
    const { kept, edits: next } = layTraceAnew(tugged, layer, anew(start));
    expect(kept).toBeGreaterThan(0);
    const after = applyChange(tugged, draftChange('Again', next));
    for (const { after: line } of edits) {
      const still = find(after, 'stroke', line.id);
      if (still) expect(still.spine).toEqual(line.spine);
    }
  });

  it('keeps a colour that was given to its lines', async () => {
    const start = await laid();
    const { page, layer } = start;
    const red = ofKind(page, 'stroke').map((before) => ({
      before,
      after: { ...before, nib: { ...before.nib, color: '#cc0000' } },
    }));
    const recoloured = applyChange(page, draftChange('Recolour', red));
    const { edits } = layTraceAnew(recoloured, layer, anew(start));
    const after = applyChange(recoloured, draftChange('Again', edits));
    expect(new Set(ofKind(after, 'stroke').map(({ nib }) => nib.color))).toEqual(new Set(['#cc0000']));
  });

  it('is refused on a locked layer, and let go is ink like any other', async () => {
    const start = await laid();
    const { page, layer } = start;
    const locked = { ...layer, locked: true };
    const shut = applyChange(page, draftChange('Lock', [{ before: layer, after: locked }]));
    expect(() => layTraceAnew(shut, locked, anew(start))).toThrow('locked');
    const free = applyChange(page, draftChange('Let go', letTraceGo(layer)));
    expect(find(free, 'layer', 'lines')?.traced).toBeUndefined();
    expect(() => layTraceAnew(free, { ...layer, traced: undefined } as never, anew(start))).toThrow('was not traced');
  });
});
