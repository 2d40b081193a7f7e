import { handleAt, isSmooth, nodeAt, nodeCount, type Spine } from '@true-nib/core/curve';
import { apply, type Point } from '@true-nib/core/math';
import { drawKnot, strokeBoth, type Sketch } from '../../render';

/** CSS px between a line's edge and the grip that widens it. */
export const SIDE_GAP = 12;

/** Grips on both sides of a node, a little off the edge of the line there. */
export function sidesOf(spine: Spine, node: number, perCss: number): Point[] {
  const at = nodeAt(spine, node);
  const before = handleAt(spine, node, 'in') ?? at;
  const after = handleAt(spine, node, 'out') ?? at;
  const [dx, dy] = [after.x - before.x, after.y - before.y];
  const length = Math.hypot(dx, dy) || 1;
  const away = at.width / 2 + SIDE_GAP * perCss;
  return [1, -1].map((side) => ({ x: at.x - (side * dy * away) / length, y: at.y + (side * dx * away) / length }));
}

/** The course, its nodes, and of the chosen node the handles and sides. */
export function sketchOf(spine: Spine, chosen: number | undefined, picked: ReadonlySet<number>): Sketch {
  return (context, map, ratio, colours) => {
    const on = (p: Point) => apply(map, p);
    const p = spine.points;
    const trace = () => {
      const start = on({ x: p[0], y: p[1] });
      context.moveTo(start.x, start.y);
      for (let i = 0; i + 9 < p.length; i += 9) {
        const [b, c, d] = [3, 6, 9].map((k) => on({ x: p[i + k], y: p[i + k + 1] }));
        context.bezierCurveTo(b.x, b.y, c.x, c.y, d.x, d.y);
      }
    };
    // A hairline along the middle: the line itself stays to be judged.
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.lineWidth = ratio;
    context.strokeStyle = colours.seal;
    context.beginPath();
    trace();
    context.stroke();
    if (chosen !== undefined) {
      const at = on(nodeAt(spine, chosen));
      for (const side of ['in', 'out'] as const) {
        const handle = handleAt(spine, chosen, side);
        if (!handle) continue;
        const to = on(handle);
        strokeBoth(context, ratio, () => {
          context.moveTo(at.x, at.y);
          context.lineTo(to.x, to.y);
        });
        drawKnot(context, to, { look: 'handle' }, ratio, colours);
      }
      const perCss = ratio / Math.hypot(map[0], map[1]);
      const [left, right] = sidesOf(spine, chosen, perCss).map(on);
      strokeBoth(context, ratio, () => {
        for (const side of [left, right]) {
          context.moveTo(side.x + 4 * ratio, side.y);
          context.arc(side.x, side.y, 4 * ratio, 0, 2 * Math.PI);
        }
      });
    }
    for (let node = 0; node < nodeCount(spine); node++)
      drawKnot(
        context,
        on(nodeAt(spine, node)),
        { look: isSmooth(spine, node) ? 'smooth' : 'corner', isChosen: picked.has(node) },
        ratio,
        colours,
      );
  };
}
