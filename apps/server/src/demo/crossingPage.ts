import type { AreaFill } from '@true-nib/core/area';
import { boxRing, plainBorder, ringThrough, shapedRing } from '@true-nib/core/comic';
import type { Spine } from '@true-nib/core/curve';
import { identity, type Box, type Point } from '@true-nib/core/math';
import { INK_BLACK, PAPER_WHITE } from '@true-nib/core/nib';
import type { Page } from '@true-nib/core/page';
import { ellipseSpine } from '@true-nib/core/shapes';
import { BLACK } from './blacks';
import { brought, comicPage, type Cell, type Scene } from './comicPage';
import { CROSSING, DECK, LANTERN, LIGHTHOUSE, MOON } from './crossing';
import { heronInked } from './heronFinished';
import { Sketch, smooth } from './sketch';

const WHITE: AreaFill = { as: 'colour', color: PAPER_WHITE };
const box = (minX: number, minY: number, maxX: number, maxY: number): Box => ({ minX, minY, maxX, maxY });
const place = (x: number, y: number): Point => ({ x, y });
const disc = (centre: Point, rx: number, ry = rx): Spine => ellipseSpine({ centre, rx, ry });

/** Lines of light over black that get closer or apart from one place to another. */
const light = (
  from: readonly [Point, number],
  to: readonly [Point, number],
  shape: 'straight' | 'round',
): AreaFill => ({
  ...{ as: 'tone', color: PAPER_WHITE, screen: 'lines', period: 14, angle: 0, at: from[0], share: from[1] },
  ramp: { shape, from: from[0], to: to[0], share: to[1] },
});

/** A drawing where it stands, in black or in white on black. */
const here = (sketch: Sketch, weight: number, color?: string): Scene => ({
  ...{ sketch, map: identity, weight },
  ...(color !== undefined && { color }),
});

/** *The crossing*, finished: six panels of a tall scroll, from the sky down to what lies under the channel. */
function cells({ size: { ppi } }: Page): Cell[] {
  const border = plainBorder(ppi);
  return [
    moonlit(),
    beam(border),
    {
      ...watcher(border),
      scenes: [{ sketch: heronInked(), map: brought(place(1060, 1130), place(1180, 3860), 0.56), weight: 0.8 }],
    },
    ferry(),
    lamp(border),
    deep(),
  ];
}

type Border = ReturnType<typeof plainBorder>;

function moonlit(): Cell {
  return {
    panel: { ring: boxRing(box(-60, -60, 1660, 2160)) },
    scenes: [here(CROSSING.sky, 0.9, PAPER_WHITE)],
    fills: [
      { ring: boxRing(box(-60, -60, 1660, 2160)), fill: BLACK },
      { ring: disc(MOON, 330), fill: WHITE },
      { ring: disc(place(1150, 700), 285), fill: BLACK },
    ],
  };
}

function beam(border: Border): Cell {
  const { x, y } = LIGHTHOUSE;
  const whole = box(90, 2320, 1510, 4600);
  const tower = ringThrough([place(x - 110, y), place(x + 110, y), place(x + 210, y + 1500), place(x - 210, y + 1500)]);
  const land = smooth(
    [
      [-600, 1640],
      [-480, 1620],
      [-260, 1480],
      [0, 1520],
      [240, 1480],
      [460, 1640],
      [760, 1700],
      [1200, 1720],
    ].map(([dx, dy]) => place(x + dx, y + dy)),
  );
  return {
    panel: { ring: boxRing(whole), border },
    scenes: [here(CROSSING.lighthouse, 1.1)],
    fills: [
      { ring: boxRing(whole), fill: BLACK },
      { ring: boxRing(whole), fill: light([place(0, 2420), 0], [place(0, 4560), 0.86], 'straight') },
      { ring: ringThrough([place(x + 60, y - 110), place(x + 1300, y - 450), place(x + 1300, y + 220)]), fill: WHITE },
      { ring: ringThrough([...land, place(1700, 4700), place(-100, 4700)]), fill: BLACK },
      { ring: tower, fill: WHITE },
      ...[260, 880].map((top) => ({ ring: band(x, y, top, 300), fill: BLACK })),
      {
        ring: ringThrough(
          [
            [-130, -230],
            [0, -395],
            [130, -230],
          ].map(([dx, dy]) => place(x + dx, y + dy)),
        ),
        fill: BLACK,
      },
      { ring: boxRing(box(x - 96, y - 230, x + 96, y)), fill: WHITE },
    ],
  };
}

/** A ring of paint round the tower. */
function band(x: number, y: number, top: number, height: number): Spine {
  const half = (at: number) => 110 + (100 * at) / 1500;
  const arc = (at: number, turn: 1 | -1) =>
    smooth([place(x - turn * half(at), y + at), place(x, y + at + 42), place(x + turn * half(at), y + at)]);
  return ringThrough([...arc(top, 1), ...arc(top + height, -1)]);
}

/** Somebody looks on: an inset over the foot of the tower. */
function watcher(border: Border): Omit<Cell, 'scenes'> {
  return { panel: { ring: shapedRing('oval', box(900, 3560, 1440, 4160)), border, gutter: 26 } };
}

function ferry(): Cell {
  const { x, y } = DECK;
  const at = (dx: number, dy: number) => place(x + dx, y + dy);
  const hull = [
    ...smooth([at(-640, 0), at(-200, 50), at(260, 30), at(640, -60)]),
    ...smooth([at(590, 180), at(520, 330)]),
    ...smooth([at(0, 360), at(-480, 330)]),
    at(-560, 210),
  ];
  const white = (...corners: readonly (readonly [number, number])[]) => ({
    ring: ringThrough(corners.map(([dx, dy]) => at(dx, dy))),
    fill: WHITE,
  });
  return {
    panel: {
      ring: ringThrough([place(-60, 4780), place(1660, 4780), place(1660, 7260), place(-60, 7620)]),
    },
    scenes: [here(CROSSING.ferry, 1.15), here(smoke(), 1.6, PAPER_WHITE), here(CROSSING.waves, 1.7, PAPER_WHITE)],
    fills: [
      { ring: boxRing(box(-60, 4780, 1660, 8010)), fill: BLACK },
      white([-380, 30], [-360, -230], [330, -250], [350, 40]),
      white([-240, -236], [-226, -430], [150, -446], [160, -246]),
      { ring: ringThrough(hull), fill: WHITE },
      ...[0, 1, 2, 3, 4].map((k) => ({ ring: disc(at(-280 + k * 135, -110), 36, 40), fill: BLACK })),
      white([220, -250], [240, -560], [366, -560], [360, -254]),
      { ring: stripe(), fill: BLACK },
      { ring: ringThrough([at(232, -440), at(238, -540), at(366, -540), at(364, -440)]), fill: BLACK },
    ],
  };
}

/** The dark foot of the hull. */
function stripe(): Spine {
  const at = (way: readonly (readonly [number, number])[]) =>
    smooth(way.map(([dx, dy]) => place(DECK.x + dx, DECK.y + dy)));
  const line = at([
    [-660, 168],
    [-200, 232],
    [260, 216],
    [660, 128],
  ]);
  const keel = at([
    [660, 380],
    [0, 400],
    [-660, 380],
  ]);
  return ringThrough([...line, ...keel]);
}

/** What comes out of the funnel, drawn twice so that it has body. */
function smoke(): Sketch {
  const { x, y } = DECK;
  const sketch = new Sketch();
  for (const aside of [0, 46, -30])
    sketch.curve(
      [
        [300, -600],
        [250 + aside, -760],
        [360 + aside, -880],
        [240 + aside, -1000],
        [330 + aside, -1090],
      ].map(([dx, dy]) => place(x + dx, y + dy)),
      { weight: 0.5 },
    );
  return sketch;
}

function lamp(border: Border): Cell {
  const flame = place(LANTERN.x - 20, LANTERN.y + 770);
  const glass = ringThrough(
    [
      [-120, 620],
      [80, 620],
      [120, 900],
      [-150, 900],
    ].map(([dx, dy]) => place(LANTERN.x + dx, LANTERN.y + dy)),
  );
  const room = ringThrough([place(240, 8010), place(1360, 7776), place(1360, 10240), place(240, 10240)]);
  return {
    panel: { ring: room, border },
    scenes: [here(CROSSING.lantern, 1.2), here(cord(), 1.2, PAPER_WHITE)],
    fills: [
      { ring: room, fill: BLACK },
      { ring: room, fill: light([flame, 0.9], [place(flame.x + 780, flame.y), 0], 'round') },
      { ring: glass, fill: WHITE },
      { ring: disc(flame, 46, 76), fill: WHITE },
    ],
  };
}

/** What the lantern hangs from, out of the dark. */
function cord(): Sketch {
  const way = [
    [-10, -1300],
    [-70, -800],
    [-20, -400],
    [-60, -240],
  ];
  return new Sketch().curve(
    way.map(([dx, dy]) => place(LANTERN.x + dx, LANTERN.y + dy)),
    { weight: 0.4 },
  );
}

/** The eye of what lies under the channel. */
const EYE = { at: place(760, 12_330), rx: 560, ry: 300, iris: 250, pupil: 88 } as const;

function deep(): Cell {
  const water = box(-60, 10_620, 1660, 14_060);
  const { at, rx, ry, iris, pupil } = EYE;
  const { marks } = CROSSING.deep;
  // A back, a belly and an eye each.
  const fish = Array.from({ length: 12 }, (_, k) => marks.slice(3 * k, 3 * k + 3)).filter((parts) =>
    parts.every(({ points }) => points.every(({ y }) => y < 11_900)),
  );
  const bottom = marks.filter(({ points }) => points.some(({ y }) => y > 12_900));
  const lid = (height: number) => smooth([place(at.x - rx, at.y), place(at.x, at.y - height), place(at.x + rx, at.y)]);
  return {
    panel: { ring: boxRing(water) },
    scenes: [
      here(sketchOf(fish.flat()), 1.1),
      here(sketchOf(bottom), 1.1, PAPER_WHITE),
      here(lids(), 1.6, PAPER_WHITE),
    ],
    fills: [
      { ring: boxRing(water), fill: BLACK },
      {
        ring: boxRing({ ...water, maxY: 11_960 }),
        fill: light([place(0, water.minY), 0.92], [place(0, 11_900), 0], 'straight'),
      },
      ...fish.map(([back, belly]) => ({
        ring: ringThrough([...back.points, ...[...belly.points].reverse()]),
        fill: WHITE,
      })),
      { ring: ringThrough([...lid(ry), ...lid(-ry * 0.82).reverse()]), fill: WHITE },
      { ring: disc(at, iris), fill: BLACK },
      ...spokes(at, iris - 18, pupil + 26).map((ring) => ({ ring, fill: WHITE })),
      { ring: disc(at, pupil + 14, iris - 46), fill: BLACK },
      { ring: disc(place(at.x + 76, at.y - 96), 34), fill: WHITE },
    ],
  };
}

function sketchOf(marks: Sketch['marks']): Sketch {
  const sketch = new Sketch();
  for (const mark of marks) sketch.add(mark.points, mark);
  return sketch;
}

/** White threads of an iris, from its rim inwards. */
function spokes({ x, y }: Point, outer: number, inner: number): Spine[] {
  const count = 40;
  return Array.from({ length: count }, (_, k) => {
    const angle = (2 * Math.PI * k) / count;
    const to = inner + ((k * 37) % 60);
    const on = (radius: number, turn: number) =>
      place(x + radius * Math.cos(angle + turn), y + radius * Math.sin(angle + turn));
    return ringThrough([on(outer, -0.045), on(outer, 0.045), on(to, 0)]);
  });
}

/** Folds round the eye. */
function lids(): Sketch {
  const { at, rx, ry } = EYE;
  const sketch = new Sketch();
  for (const [k, weight] of [
    [1.16, 0.9],
    [1.42, 0.6],
    [1.72, 0.4],
  ])
    sketch.curve(
      [
        place(at.x - rx * (0.98 + (k - 1) * 0.5), at.y + 26),
        place(at.x - rx * 0.5, at.y - ry * 0.72 * k),
        place(at.x, at.y - ry * k),
        place(at.x + rx * 0.5, at.y - ry * 0.72 * k),
        place(at.x + rx * (0.98 + (k - 1) * 0.5), at.y + 26),
      ],
      { weight },
    );
  for (const [k, weight] of [
    [1.14, 0.7],
    [1.5, 0.4],
  ])
    sketch.curve(
      [
        place(at.x - rx * 0.8, at.y + ry * 0.4 * k),
        place(at.x, at.y + ry * 0.9 * k),
        place(at.x + rx * 0.8, at.y + ry * 0.4 * k),
      ],
      { weight },
    );
  return sketch;
}

/** Draws the scroll over its rough, as changes, with the fonts that it names. */
export const crossingPage = (start: Page) =>
  comicPage(start, {
    id: 'demo-crossing',
    cells: cells(start),
    points: 12,
    letters: ({ says, loud }) => [
      loud(1, place(570, 270), 'The crossing', 46, { color: PAPER_WHITE, fit: { as: 'arch', rise: 0.12 } }),
      says(1, place(480, 1760), 'Two miles of black water between the quay and the light.', undefined, {
        shape: 'box',
      }),
      says(1, place(1120, 1985), 'Nobody crosses after nine.', undefined, { shape: 'box' }),
      says(2, place(1130, 3290), 'Count them. There are *three* aboard.', place(1130, 3600)),
      says(4, place(400, 5020), 'You said there would be no moon.', place(650, 5520)),
      says(4, place(820, 5270), 'I said no *questions*.', place(850, 5520)),
      loud(4, place(1120, 6500), 'Chug chug chug', 26, {
        ...{ color: PAPER_WHITE, outline: INK_BLACK, fit: { as: 'arch', rise: -0.1 } },
      }),
      says(5, place(700, 8330), 'Put that out. Something is following the light.', place(830, 8740), {
        shape: 'burst',
      }),
      says(6, place(310, 10_930), 'Not following.', undefined, { shape: 'box' }),
      says(6, place(1240, 11_620), 'Waking.', undefined, { shape: 'box' }),
      loud(6, place(560, 13_420), 'Thoom', 84, {
        color: PAPER_WHITE,
        outline: INK_BLACK,
        fit: { as: 'arch', rise: 0.14 },
      }),
    ],
  });
