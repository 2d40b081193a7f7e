import Ajv from 'ajv';
import schema from '../../../../docs/nib-rack.schema.json';
import { drawStroke, outlineOf } from '../../src/ink';
import { flattenSpine } from '../../src/curve';
import {
  addToRack,
  deleteFromRack,
  duplicateInRack,
  foundIn,
  groupsOf,
  mergeRacks,
  nibAt,
  rackFromText,
  rackToText,
  shippedNib,
  SHIPPED_NIBS,
  TECHNICAL_WIDTHS,
  type Rack,
  type RackNib,
} from '../../src/rack';
import { drawn, wave } from '../hands';

let count = 0;
const newId = () => `new-${count++}`;
const named = (name: string): RackNib => SHIPPED_NIBS.find(({ nib }) => nib.name === name)!;
const renamed = (nib: RackNib, name: string): RackNib => ({ ...nib, nib: { ...nib.nib, name } });

describe('the nibs that ship', () => {
  it('are at least twelve, with names and ids of their own', () => {
    expect(SHIPPED_NIBS.length).toBeGreaterThanOrEqual(12);
    expect(new Set(SHIPPED_NIBS.map(({ id }) => id)).size).toBe(SHIPPED_NIBS.length);
    expect(new Set(SHIPPED_NIBS.map(({ nib }) => nib.name)).size).toBe(SHIPPED_NIBS.length);
  });

  it('are found by their ids', () => {
    for (const one of SHIPPED_NIBS) expect(shippedNib(one.id)).toBe(one);
    expect(shippedNib('quill')).toBeUndefined();
  });

  it('hold the technical pens of ISO 9175, in steps of √2 as far as their rounded widths go', () => {
    expect(TECHNICAL_WIDTHS).toEqual([0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1, 1.4, 2]);
    TECHNICAL_WIDTHS.slice(1).forEach((width, k) => expect(width / TECHNICAL_WIDTHS[k]).toBeCloseTo(Math.SQRT2, 1));
  });

  it.each(TECHNICAL_WIDTHS)('draw a technical line %p mm wide at any ppi, whatever the pressure', (mm) => {
    const pen = SHIPPED_NIBS.find(({ id }) => id === `technical-${mm}`)!;
    for (const ppi of [72, 350, 600]) {
      const hand = drawn(wave, { pressure: (t) => t });
      const { spine } = drawStroke(hand, nibAt(pen, ppi, '#ffffff'), pen.calm);
      const widths = flattenSpine(spine, 0.05).filter((_, k) => k % 3 === 2);
      for (const width of widths) expect(width).toBeCloseTo((mm / 25.4) * ppi, 6);
    }
  });

  it.each(SHIPPED_NIBS.map((one) => [one.nib.name, one] as const))(
    '%s draws a line through the whole pipeline',
    (_name, one) => {
      const { rings, box } = outlineOf(
        drawStroke(drawn(wave, { pressure: (t) => Math.sin(Math.PI * t) }), nibAt(one, 350, '#fffff0'), one.calm),
      );
      expect(rings.length).toBeGreaterThan(0);
      expect(box.maxX - box.minX).toBeGreaterThan(400);
    },
  );

  it('lay down the paper they are on', () => {
    expect(nibAt(named('Paper white'), 350, '#f4ecd8').color).toBe('#f4ecd8');
  });
});

describe('a rack', () => {
  it('finds nibs by words of their name and group', () => {
    expect(foundIn(SHIPPED_NIBS, 'pen 0.35').map(({ nib }) => nib.name)).toEqual(['Pen 0.35 mm']);
    expect(foundIn(SHIPPED_NIBS, 'MOUSE').map(({ nib }) => nib.name)).toEqual([
      'Lens line',
      'Thinning line',
      'Quick and thin',
    ]);
    expect(foundIn(SHIPPED_NIBS, 'nothing like it')).toEqual([]);
    expect(groupsOf(SHIPPED_NIBS)[0]).toBe('Lines');
  });

  it('copies a nib beside it under a free name', () => {
    const copied = duplicateInRack(SHIPPED_NIBS, 'pressure', 'own');
    expect(copied[copied.findIndex(({ id }) => id === 'pressure') + 1]).toMatchObject({
      id: 'own',
      nib: { name: 'Pressure nib 2' },
    });
    expect(duplicateInRack(copied, 'own', 'own2').at(3)!.nib.name).toBe('Pressure nib 3');
  });

  it('never loses its last nib', () => {
    const one = SHIPPED_NIBS.slice(0, 1);
    expect(() => deleteFromRack(one, one[0].id)).toThrow(/last nib/);
    expect(deleteFromRack(SHIPPED_NIBS, 'pressure')).toHaveLength(SHIPPED_NIBS.length - 1);
  });

  it('takes up only what it does not have, under names and ids of its own', () => {
    const other: Rack = [named('Brush'), renamed(named('Brush'), 'Sable')];
    const grown = addToRack(SHIPPED_NIBS, other, newId);
    expect(grown).toHaveLength(SHIPPED_NIBS.length + 1);
    expect(grown.at(-1)).toMatchObject({ nib: { name: 'Sable' } });
    expect(grown.at(-1)!.id).not.toBe('brush');
  });
});

describe('a rack file', () => {
  it('brings every nib back as it was', () => {
    expect(rackFromText(rackToText(SHIPPED_NIBS))).toEqual(SHIPPED_NIBS);
  });

  it('is what its published schema says (JSON Schema, checked by ajv)', () => {
    const isRack = new Ajv({ strict: true }).compile(schema);
    const file = JSON.parse(rackToText(SHIPPED_NIBS));
    expect(isRack(file)).toBe(true);
    expect(isRack({ ...file, nibs: [{ ...file.nibs[0], unit: 'inch' }] })).toBe(false);
    expect(isRack({ ...file, version: 2 })).toBe(false);
  });

  it('may hold fields that are not known: they are left out', () => {
    const file = JSON.parse(rackToText(SHIPPED_NIBS.slice(0, 1)));
    file.maker = 'somebody';
    file.nibs[0].wetness = 3;
    file.nibs[0].nib.ferrule = 'tin';
    expect(rackFromText(JSON.stringify(file))).toEqual(SHIPPED_NIBS.slice(0, 1));
  });

  const broken = (change: (nib: { nib: Record<string, unknown> } & Record<string, unknown>) => void): string => {
    const file = JSON.parse(rackToText(SHIPPED_NIBS.slice(1, 2)));
    change(file.nibs[0]);
    return JSON.stringify(file);
  };
  it.each([
    ['no JSON', 'hello', /not JSON/],
    ['another file', '{"a":1}', /no nib rack of True Nib/],
    ['a later version', '{"format":"true-nib-rack","version":9,"nibs":[]}', /version 9; version 1 is known/],
    ['no nibs', '{"format":"true-nib-rack","version":1,"nibs":[]}', /at least one nib/],
    ['a size of 0', broken((one) => (one.nib.size = 0)), /"Pressure nib": "size" needs a number/],
    ['a size of a million', broken((one) => (one.nib.size = 1e6)), /"Pressure nib": "size" needs a number.*1000000/],
    [
      'a pressure curve that runs back',
      broken(
        (one) =>
          (one.nib.press = [
            [0, 0],
            [0.5, 1],
            [0.4, 1],
          ]),
      ),
      /each to the right/,
    ],
    ['a colour by name', broken((one) => (one.nib.color = 'red')), /#rrggbb/],
    ['an unknown tip', broken((one) => (one.nib.tip = { shape: 'square', angle: 0, thickness: 1 })), /flat, chisel/],
    ['an unknown way', broken((one) => (one.calm = { way: 'frozen' })), /raw, even, tow, sprung/],
    ['no twin', broken((one) => delete one.twin), /twin/],
  ])('is refused with a reason: %s', (_name, text, reason) => {
    expect(() => rackFromText(text)).toThrow(reason);
  });
});

describe('two racks that were changed apart', () => {
  const [a, b, c] = SHIPPED_NIBS;
  it('become one that has what either side did', () => {
    const here = [renamed(a, 'Mine'), b, c];
    const there = [a, renamed(b, 'Theirs'), c, { ...c, id: 'added' }];
    expect(mergeRacks([a, b, c], here, there).map(({ nib }) => nib.name)).toEqual([
      'Mine',
      'Theirs',
      c.nib.name,
      c.nib.name,
    ]);
  });

  it('lose a nib that one side deleted, unless the other changed it', () => {
    expect(mergeRacks([a, b, c], [a, c], [a, b, c]).map(({ id }) => id)).toEqual([a.id, c.id]);
    expect(mergeRacks([a, b], [a], [a, renamed(b, 'Kept')]).map(({ nib }) => nib.name)).toEqual([a.nib.name, 'Kept']);
  });
});
