import { panelsOn, readingOrder } from '@true-nib/core/comic';
import { flattenSpine, nodeAt, nodeCount, pointAt, segmentCount, STRIDE, type Spine } from '@true-nib/core/curve';
import type { EntityId } from '@true-nib/core/kind';
import { apply, type Box, type Matrix, type Point } from '@true-nib/core/math';
import { marginBox, sheetOf, trimBox, type Page } from '@true-nib/core/page';
import { LETTERS, type Sketch } from '../../render';

interface Shown {
  readonly chosen: readonly EntityId[];
  /** A line that is being dragged, page px. */
  readonly band: readonly Point[] | undefined;
  /** What the hand has come upon, in words. */
  readonly said: string | undefined;
}

/** Panels as they are laid out: where they are read, the chosen ones by their corners, the margins and the trim. */
export function panelSketch(page: Page, { chosen, band, said }: Shown): Sketch {
  const panels = readingOrder(panelsOn(page), sheetOf(page).reads);
  return (context, map, ratio, colours) => {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.lineWidth = ratio;
    context.strokeStyle = '#2a6f97';
    context.setLineDash([5 * ratio, 5 * ratio]);
    boxPath(context, marginBox(page), map);
    if (sheetOf(page).bleed > 0) {
      context.setLineDash([1.5 * ratio, 3 * ratio]);
      boxPath(context, trimBox(page), map);
    }
    context.setLineDash([]);
    context.strokeStyle = colours.seal;
    for (const panel of panels) {
      const isChosen = chosen.includes(panel.id);
      context.lineWidth = (isChosen ? 2 : 1) * ratio;
      if (isChosen || !panel.border) ringPath(context, panel.ring, map);
    }
    for (const [k, { ring }] of panels.entries()) number(context, ring, String(k + 1), { map, ratio, colours });
    for (const panel of panels) if (chosen.includes(panel.id)) grips(context, panel.ring, { map, ratio, colours });
    if (band) {
      context.lineWidth = 1.5 * ratio;
      line(
        context,
        band.map((p) => apply(map, p)),
      );
    }
    if (said) words(context, said, ratio, colours);
  };
}

type Context = CanvasRenderingContext2D;

interface Look {
  readonly map: Matrix;
  readonly ratio: number;
  readonly colours: { readonly seal: string; readonly raised: string };
}

function line(context: Context, places: readonly Point[]): void {
  context.beginPath();
  places.forEach(({ x, y }, k) => (k === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
  context.stroke();
}

function boxPath(context: Context, { minX, minY, maxX, maxY }: Box, map: Matrix): void {
  const corners = [
    { x: minX, y: minY },
    { x: maxX, y: minY },
    { x: maxX, y: maxY },
    { x: minX, y: maxY },
    { x: minX, y: minY },
  ];
  line(
    context,
    corners.map((p) => apply(map, p)),
  );
}

function ringPath(context: Context, ring: Spine, map: Matrix): void {
  const flat = flattenSpine(ring, 0.5);
  const places = Array.from({ length: flat.length / STRIDE }, (_, k) => ({
    x: flat[STRIDE * k],
    y: flat[STRIDE * k + 1],
  }));
  line(
    context,
    places.map((p) => apply(map, p)),
  );
}

/** The number of a panel in its first corner, as a small seal. */
function number(context: Context, ring: Spine, word: string, { map, ratio, colours }: Look): void {
  const corners = Array.from({ length: nodeCount(ring) }, (_, node) => apply(map, nodeAt(ring, node)));
  const first = corners.reduce((best, at) => (at.x + 2 * at.y < best.x + 2 * best.y ? at : best));
  const middle = {
    x: corners.reduce((sum, { x }) => sum + x, 0) / corners.length,
    y: corners.reduce((sum, { y }) => sum + y, 0) / corners.length,
  };
  // From the corner towards the middle: within the panel, however slanted it is.
  const away = Math.hypot(middle.x - first.x, middle.y - first.y) || 1;
  const inwards = (22 * ratio) / away;
  const [x, y] = [first.x + inwards * (middle.x - first.x), first.y + inwards * (middle.y - first.y)];
  context.fillStyle = colours.raised;
  context.strokeStyle = colours.seal;
  context.lineWidth = ratio;
  context.beginPath();
  context.arc(x, y, 9 * ratio, 0, 2 * Math.PI);
  context.fill();
  context.stroke();
  context.fillStyle = colours.seal;
  context.font = `${11 * ratio}px ${LETTERS}`;
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  context.fillText(word, x, y + 0.5 * ratio);
}

/** Squares at the corners, rings at the middles of sides: those bend it. */
function grips(context: Context, ring: Spine, { map, ratio, colours }: Look): void {
  context.fillStyle = colours.raised;
  context.strokeStyle = colours.seal;
  context.lineWidth = 1.5 * ratio;
  for (let node = 0; node < nodeCount(ring); node++) {
    const { x, y } = apply(map, nodeAt(ring, node));
    context.beginPath();
    context.rect(x - 5 * ratio, y - 5 * ratio, 10 * ratio, 10 * ratio);
    context.fill();
    context.stroke();
  }
  for (let segment = 0; segment < segmentCount(ring); segment++) {
    const { x, y } = apply(map, pointAt(ring, { segment, t: 0.5 }));
    context.beginPath();
    context.arc(x, y, 4.5 * ratio, 0, 2 * Math.PI);
    context.fill();
    context.stroke();
  }
}

/** A sentence at the top of the board. */
function words(context: Context, said: string, ratio: number, { seal, raised }: Look['colours']): void {
  context.font = `${12 * ratio}px ${LETTERS}`;
  const width = context.measureText(said).width + 20 * ratio;
  const x = context.canvas.width / 2;
  context.fillStyle = raised;
  context.beginPath();
  context.roundRect(x - width / 2, 10 * ratio, width, 24 * ratio, 12 * ratio);
  context.fill();
  context.fillStyle = seal;
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  context.fillText(said, x, 22.5 * ratio);
}
