import { boxRing, placeOnPlane, plainBorder, ringThrough, shapedRing } from '@true-nib/core/comic';
import type { Box } from '@true-nib/core/math';
import { PAPER_WHITE } from '@true-nib/core/nib';
import { mmToPx, newPage, type PageSize } from '@true-nib/core/page';
import { brought, comicPage, tone, type Cell } from './comicPage';
import { crossing } from './crossing';
import { quayFrame } from './frames';
import { heronInked } from './heronFinished';
import { lampStair } from './lampStair';
import { quay } from './quay';

/** *Before the tide turns*: five panels, of which one bleeds, one is slanted and one an inset. */
function cells({ width, height, ppi }: PageSize): Cell[] {
  const border = plainBorder(ppi);
  const gap = mmToPx(5, ppi);
  const [left, right, top] = [170, width - 170, 1760];
  const low = 2840;
  const box = (minX: number, minY: number, maxX: number, maxY: number): Box => ({ minX, minY, maxX, maxY });
  const [slant, lean] = [1180, 190];
  return [
    {
      panel: { ring: boxRing(box(-60, -60, width + 60, top)), border },
      scenes: [{ sketch: quay(), map: brought({ x: 1325, y: 1900 }, { x: 1325, y: 980 }, 1.02), weight: 0.8 }],
      fills: [
        {
          ring: boxRing(box(-60, -60, width + 60, 760)),
          fill: tone(0.32, 0, [{ x: 0, y: -60 }, { x: 0, y: 760 }, 0]),
        },
      ],
    },
    {
      panel: {
        ring: ringThrough([
          { x: left, y: top + gap },
          { x: slant + lean, y: top + gap },
          { x: slant - lean, y: low },
          { x: left, y: low },
        ]),
        border,
      },
      scenes: [{ sketch: quay(), map: brought({ x: 330, y: 2660 }, { x: 560, y: 2330 }, 1.62), weight: 1.2 }],
    },
    {
      panel: {
        ring: ringThrough([
          { x: slant + lean + gap, y: top + gap },
          { x: right, y: top + gap },
          { x: right, y: low },
          { x: slant - lean + gap, y: low },
        ]),
        border,
      },
      scenes: [{ sketch: lampStair(), map: brought({ x: 1180, y: 1600 }, { x: 1840, y: 2230 }, 0.92), weight: 0.8 }],
      fills: [
        {
          ring: boxRing(box(slant - lean, top, right, top + gap + 620)),
          fill: tone(0.85, 1.2, [{ x: 0, y: top }, { x: 0, y: top + gap + 620 }, 0]),
        },
      ],
    },
    {
      panel: {
        ring: shapedRing('oval', box(1960, 2380, 2420, 2760)),
        border: { nib: { ...border.nib, size: border.nib.size * 1.2 } },
        gutter: gap / 2,
      },
      scenes: [{ sketch: heronInked(), map: brought({ x: 1060, y: 1130 }, { x: 2190, y: 2575 }, 0.62), weight: 0.7 }],
    },
    {
      panel: { ring: boxRing(box(left, low + gap, right, height - 170)), border },
      scenes: [{ sketch: crossing(), map: brought({ x: 800, y: 6120 }, { x: 1330, y: 3560 }, 1.12), weight: 1.1 }],
      fills: [
        {
          ring: boxRing(box(left, low + gap, right, 3300)),
          fill: tone(0.55, 0.6, [{ x: 0, y: low }, { x: 0, y: 3300 }, 0.05]),
        },
      ],
    },
  ];
}

/** The page, as changes, with the fonts that it names. */
export const tidePage = (size: PageSize) => {
  const start = newPage(size);
  return comicPage(start, {
    id: 'demo-tide',
    cells: cells(size),
    points: 8.5,
    letters: ({ says, loud }) => [
      says(1, { x: 470, y: 250 }, 'Low water, a quarter to nine.', undefined, { shape: 'box' }),
      says(1, { x: 2030, y: 330 }, 'Last boat *tonight*. After that the channel is mud till morning.', {
        x: 1760,
        y: 1010,
      }),
      loud(1, { x: 1090, y: 1180 }, 'Klonk', 40, {
        outline: PAPER_WHITE,
        placed: (place) => placeOnPlane(start, { place }, { frame: quayFrame(size), plane: 'left' }),
      }),
      says(
        2,
        { x: 1010, y: 1985 },
        'He says that every night.',
        { x: 690, y: 2030 },
        { shape: 'cloud', isThought: true },
      ),
      says(3, { x: 1760, y: 2700 }, 'Mind the *third* step.', { x: 1560, y: 2560 }),
      says(5, { x: 560, y: 3080 }, 'And if we are seen?', { x: 1010, y: 3240 }),
      says(5, { x: 2110, y: 3110 }, 'Then we were never here.', { x: 1640, y: 3250 }),
    ],
  });
};
