import { apply, type Matrix, type Point } from '@true-nib/core/math';
import type { GuideShape, GripPlace } from '@true-nib/core/guides';
import { drawKnot, strokeBoth, type OverlayColours } from '../../render';

/** Paints the grips of the guide in hand, with the arms that some are held by; `chosen` is the node that is worked on. */
export function drawGuideGrips(
  context: CanvasRenderingContext2D,
  shape: GuideShape,
  grips: readonly GripPlace[],
  chosen: number | undefined,
  { map, ratio, colours }: { readonly map: Matrix; readonly ratio: number; readonly colours: OverlayColours },
): void {
  for (const { grip, at } of grips) {
    const arm = armOf(shape, grip, chosen, grips);
    if (!arm) continue;
    const [from, to] = [apply(map, arm), apply(map, at)];
    strokeBoth(context, ratio, () => {
      context.moveTo(from.x, from.y);
      context.lineTo(to.x, to.y);
    });
  }
  for (const { grip, at, look } of grips) {
    const isChosen = 'node' in grip && grip.node === chosen && grip.part === 'node';
    drawKnot(context, apply(map, at), { look, isChosen }, ratio, colours);
  }
}

/** Where the line to a grip begins. */
function armOf(
  shape: GuideShape,
  grip: GripPlace['grip'],
  chosen: number | undefined,
  grips: readonly GripPlace[],
): Point | undefined {
  if (grip.part === 'turn' || grip.part === 'ratio')
    return shape.kind === 'template' ? shape.place : 'x' in shape ? shape : undefined;
  if (grip.part !== 'handle') return undefined;
  return grips.find((one) => one.grip.part === 'node' && one.grip.node === chosen)?.at;
}
