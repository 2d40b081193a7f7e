import fc from 'fast-check';
import { checkChange, checkEntity } from '../../src/page';
import { checkPacked, gridSteps, packSamples, quantised, unpackSamples, type PenSample } from '../../src/hand';
import {
  checkParts,
  entitiesIn,
  fromJson,
  isLarge,
  joinParts,
  pack,
  packedInParts,
  packedList,
  toJson,
  unpack,
  unpackChange,
  unpackEntity,
} from '../../src/wire';
import { PageError, sameValue } from '../../src/gate';
import { adding, change, layer, picture, samples, stroke } from './entities';

const ring = { points: Float64Array.of(0, 0, 0, 9, 0, 0, 9, 9, 0, 0, 0, 0), closed: true };
const stop = { kind: 'stop', id: 'gap', as: 'meant', from: { x: 1, y: 2 }, to: { x: 4, y: 6 } } as const;
const entities = [layer('l'), stroke('s'), { ...stroke('ring'), spine: ring }, samples('m'), picture('p'), stop];

describe('the gate', () => {
  it.each(entities.map((entity) => [entity.kind, entity] as const))('lets a %s through as it is', (_kind, entity) => {
    expect(sameValue(checkEntity(entity), entity)).toBe(true);
  });

  it.each([
    ['an unknown kind', { kind: 'spray', id: 'x' }, /no kind of entity called "spray"/],
    ['nothing at all', null, /object with named fields/],
    ['an empty id', { ...layer(''), id: '' }, /cannot be empty/],
    ['a colour by name', { ...stroke('s'), nib: { ...stroke('s').nib, color: 'red' } }, /#rrggbb/],
    [
      'not a number',
      { ...stroke('s'), spine: { points: [NaN, ...new Array(11).fill(0)], closed: false } },
      /points of a spine/,
    ],
    [
      'a place 10⁹ px away',
      { ...stroke('s'), spine: { points: [1e9, ...new Array(11).fill(0)], closed: false } },
      /1000000/,
    ],
    [
      'a ring that does not come round',
      { ...stroke('s'), spine: { ...stroke('s').spine, closed: true } },
      /closed spine ends where it begins/,
    ],
    ['a stop that is neither', { ...stop, as: 'closed' }, /"as" is one of stop, meant/],
    ['a stop without an end', { ...stop, to: undefined }, /A place is an object/],
    ['half a cubic', { ...stroke('s'), spine: { points: new Array(13).fill(0), closed: false } }, /3n \+ 1/],
    ['a nib of no size', { ...stroke('s'), nib: { ...stroke('s').nib, size: 0 } }, /"size"/],
    [
      'calm beyond 100',
      { ...stroke('s'), origin: { samples: 'm', calm: { way: 'even', strength: 101 }, zoom: 1 } },
      /"strength"/,
    ],
    ['samples that are not', { ...samples('m'), packed: Uint8Array.of(200, 200) }, /not packed samples/],
    ['a picture without a fingerprint', { ...picture('p'), blob: 'nope' }, /SHA-256/],
    ['an opacity of 2', { ...picture('p'), opacity: 2 }, /"opacity"/],
    ['a name too long', { ...layer('l'), name: 'x'.repeat(201) }, /200 characters/],
  ])('refuses %s in a sentence', (_what, value, sentence) => {
    expect(() => checkEntity(value)).toThrow(sentence);
    expect(() => checkEntity(value)).toThrow(PageError);
  });

  it('refuses a change that does nothing, or that turns one entity into another', () => {
    expect(() => checkChange(change([]))).toThrow(/at least one edit/);
    expect(() => checkChange(change([{ before: layer('a'), after: layer('b') }]))).toThrow(
      /turn one entity into another/,
    );
    expect(() => checkChange(change([{ before: null, after: null }]))).toThrow(/needs an entity/);
    expect(() => checkChange({ ...change(adding(layer('a'))), at: 'now' })).toThrow(/"at"/);
  });

  it('packs into memory that belongs to nobody else', () => {
    const [a, b] = [pack(stroke('s')), pack(stroke('t'))];
    expect(a.byteLength).toBe(a.buffer.byteLength);
    structuredClone(b, { transfer: [b.buffer as ArrayBuffer] });
    expect(b.byteLength).toBe(0);
    expect(sameValue(unpackEntity(a), stroke('s'))).toBe(true);
    expect(sameValue(unpackEntity(pack(stroke('u'))), stroke('u'))).toBe(true);
  });

  it('takes a line whose mirror has a zero below nothing for the one that went', () => {
    const mirrored = { ...stroke('s'), copy: { set: 'twins', matrix: [-1, -0, -0, 1, 800, -0] as const } };
    expect(sameValue(unpackEntity(pack(mirrored)), mirrored)).toBe(true);
    expect(sameValue([-0, NaN], [0, NaN])).toBe(true);
    expect(sameValue([0], [1e-300])).toBe(false);
  });

  it.each([700, 501, 250, 3, 1])('packs a change of %i edits in parts that are a whole together', (count) => {
    const large = change(adding(...Array.from({ length: count }, (_, k) => stroke(`s${k}`, k))), { undoes: 'other' });
    const parts = [...packedInParts(large)];
    expect(sameValue(unpackChange(Uint8Array.from(parts.flatMap((part) => [...part]))), large)).toBe(true);
    expect(parts).toHaveLength(1 + Math.ceil(count / 100));
    expect([isLarge(large.edits), isLarge([])]).toEqual([count > 24, false]);
  });

  it('reads a page in parts, with or without samples, old layers made whole', () => {
    const { opacity: _opacity, holdsShape: _shape, ...old } = layer('l');
    const parts = joinParts([...entities.slice(1), old].map(pack));
    const told = (withSamples: boolean) =>
      [...entitiesIn(parts, (kind) => withSamples || kind !== 'samples')].map(({ id }) => id);
    expect(told(true)).toEqual(['s', 'ring', 'm', 'p', 'gap', 'l']);
    expect(told(false)).toEqual(['s', 'ring', 'p', 'gap', 'l']);
    expect([...entitiesIn(checkParts(unpack(pack(joinParts([pack(old)])))))]).toEqual([layer('l')]);
    expect(() => checkParts({ ...parts, lengths: Float64Array.of(3) })).toThrow(/lengths do not fit/);
    expect(() => checkParts([])).toThrow(/not a packed page/);
  });

  it('leaves unknown fields out', () => {
    expect(checkEntity({ ...layer('l'), evil: 1 })).toEqual(layer('l'));
  });

  it('never throws anything but a sentence, whatever comes', () => {
    fc.assert(
      fc.property(fc.anything(), (value) => {
        for (const check of [checkEntity, checkChange]) {
          try {
            check(value);
          } catch (error) {
            expect(error).toBeInstanceOf(PageError);
          }
        }
      }),
      { numRuns: 300 },
    );
  });
});

describe('the binary form', () => {
  it.each(entities.map((entity) => [entity.kind, entity] as const))('gives a %s back as it was', (_kind, entity) => {
    expect(sameValue(unpackEntity(pack(entity)), entity)).toBe(true);
  });

  it('gives changes back, also out of a list of packed ones', () => {
    const two = [change(adding(stroke('a'))), change(adding(layer('b')))];
    const list = unpack(packedList(two.map(pack)));
    expect(Array.isArray(list) && sameValue(list.map(checkChange), two)).toBe(true);
    expect(sameValue(unpackChange(pack(two[0])), two[0])).toBe(true);
  });

  it('says so when bytes are cut short or are something else', () => {
    const bytes = pack(stroke('a'));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: bytes.length - 1 }), (length) => {
        expect(() => unpackEntity(bytes.slice(0, length))).toThrow(PageError);
      }),
    );
  });

  it('has a JSON twin that says the same', () => {
    const original = change(adding(stroke('a'), samples('m')));
    const json: unknown = JSON.parse(JSON.stringify(toJson(original)));
    expect(sameValue(checkChange(fromJson(json)), original)).toBe(true);
    expect(() => fromJson({ $bytes: '%%%' })).toThrow(/base64/);
  });
});

describe('samples', () => {
  const sample: fc.Arbitrary<PenSample> = fc.record({
    x: fc.integer({ min: -400_000, max: 400_000 }).map((n) => n / 64),
    y: fc.integer({ min: -400_000, max: 400_000 }).map((n) => n / 64),
    pressure: fc.integer({ min: 0, max: 4095 }).map((n) => n / 4095),
    tiltX: fc.integer({ min: -90, max: 90 }),
    tiltY: fc.integer({ min: -90, max: 90 }),
    twist: fc.integer({ min: 0, max: 359 }),
    time: fc.integer({ min: 0, max: 400_000 }).map((n) => n / 4),
  });

  it('come back exactly as they were quantised', () => {
    fc.assert(
      fc.property(fc.array(sample), (all) =>
        expect(unpackSamples(packSamples(all))).toEqual(all.map((one) => ({ ...one, x: one.x + 0, y: one.y + 0 }))),
      ),
    );
  });

  it('are told from other bytes just as unpacking tells them', () => {
    const refuses = (work: () => void) => {
      try {
        work();
        return false;
      } catch (error) {
        expect(error).toBeInstanceOf(PageError);
        return true;
      }
    };
    fc.assert(
      fc.property(
        fc.array(sample, { maxLength: 6 }),
        fc.integer({ min: -3, max: 3 }),
        fc.nat(255),
        (all, cut, byte) => {
          const whole = packSamples(all);
          const bytes =
            cut < 0 ? whole.slice(0, cut) : Uint8Array.from([...whole, ...new Array<number>(cut).fill(byte)]);
          expect(refuses(() => checkPacked(bytes))).toBe(refuses(() => unpackSamples(bytes)));
        },
      ),
      { numRuns: 300 },
    );
  });

  it('take a few bytes each', () => {
    const hand = Array.from({ length: 1_000 }, (_, k) => ({
      x: quantised(3 * k + Math.sin(k / 9), 16),
      y: quantised(200 + 50 * Math.sin(k / 40), 16),
      pressure: quantised(0.5 + 0.4 * Math.sin(k / 60), 4095),
      time: 8 * k,
    }));
    const perSample = packSamples(hand).length / hand.length;
    expect(perSample).toBeLessThan(10);
    expect(perSample).toBeLessThan(JSON.stringify(hand).length / hand.length / 5);
  });

  it('are rounded to the finer of 1/16 page px and 1/16 screen px', () => {
    expect([0.1, 1, 2, 3, 8].map(gridSteps)).toEqual([16, 16, 32, 64, 128]);
    expect(quantised(1.03, 16)).toBe(1);
  });
});
