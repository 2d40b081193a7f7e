import { placedRing, tailGrips } from '@true-nib/core/balloon';
import { waysOf } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import { apply, ringPoints, type Point } from '@true-nib/core/math';
import { find, type Page } from '@true-nib/core/page';
import type { Sketch } from '../../render';

/** Chosen balloons by their outline and the grips of their tails, chosen texts by their frame; broken where something is wrong. */
export function letterSketch(page: Page, chosen: readonly EntityId[], isTroubled: boolean): Sketch | undefined {
  if (chosen.length === 0) return undefined;
  return (context, map, ratio, colours) => {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.lineWidth = (isTroubled ? 2.5 : 1.5) * ratio;
    context.strokeStyle = colours.seal;
    context.fillStyle = colours.raised;
    const line = (places: readonly Point[]) => {
      context.beginPath();
      places
        .map((at) => apply(map, at))
        .forEach(({ x, y }, k) => (k === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
      context.closePath();
      context.stroke();
    };
    const dot = (at: Point, isSquare: boolean) => {
      const { x, y } = apply(map, at);
      context.beginPath();
      if (isSquare) context.rect(x - 5 * ratio, y - 5 * ratio, 10 * ratio, 10 * ratio);
      else context.arc(x, y, 5 * ratio, 0, 2 * Math.PI);
      context.fill();
      context.stroke();
    };
    for (const id of chosen) {
      const balloon = find(page, 'balloon', id);
      const text = find(page, 'lettering', id);
      context.setLineDash(isTroubled ? [6 * ratio, 4 * ratio] : []);
      const outlines = [
        ...(text ? waysOf(text, 0.5).map(({ points }) => points) : []),
        ...(balloon?.bodies ?? []).map((body) => placedRing(body, 0.5)),
      ];
      for (const ring of outlines) line(ringPoints(ring));
      context.setLineDash([]);
      for (const tail of balloon?.tails ?? []) {
        const body = balloon?.bodies[tail.body];
        if (!body) continue;
        const { root, bend, tip } = tailGrips(body, tail);
        dot(root, false);
        dot(bend, false);
        dot(tip, true);
      }
    }
  };
}
