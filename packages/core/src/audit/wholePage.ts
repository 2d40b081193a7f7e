import { colourOf, type DrawnEntity } from '../drawn';
import { boxMiddle, type Point } from '../math';
import { channelsOf, isInkBlack } from '../nib';
import { layersOf, mmToPx, nodeOf, pxToMm, sheetOf, trimBox, type Page } from '../page';
import type { Finding, Look, Placed, PressSettings } from './finding';

/** No channel of what is meant as white is below this, 0..255. */
const LIGHT = 240;

/** Whether black and white alone show a colour as it is meant. */
function isPlain(color: string): boolean {
  const channels = channelsOf(color);
  return isInkBlack(channels) || Math.min(...channels) >= LIGHT;
}

/** What is wrong with the page as a whole, and with its layers. */
export function* wholePage(page: Page, placed: readonly Placed[], settings: PressSettings): Generator<Finding> {
  const { scale, leastPpi, isOneBit } = settings;
  const ppi = page.size.ppi / scale;
  if (ppi < leastPpi - 0.5)
    yield {
      ...{ id: 'resolution', kind: 'resolution' },
      words: `The page has ${Math.round(ppi)} px an inch at this size; print takes ${leastPpi}. Lines stay sharp as vectors; pictures of it would not.`,
    };
  for (const layer of layersOf(page)) {
    if (nodeOf(page, layer.id)?.isHidden) continue;
    if (layer.standIn !== undefined)
      yield {
        ...{ id: `stand-in:${layer.id}`, kind: 'stand-in', mending: { as: 'plain colours' } },
        words: `${layer.name} is shown in a stand-in colour. Files have its own.`,
      };
    if (layer.medium === 'ink' && layer.opacity < 1)
      yield {
        ...{ id: `faded:${layer.id}`, kind: 'faded', mending: { as: 'full strength', id: layer.id } },
        words: `${layer.name} is faded to ${Math.round(100 * layer.opacity)} %: its ink prints grey.`,
      };
  }
  if (isOneBit) yield* greys(page, placed);
}

/** Colours that black and white alone do not have, by the layers that they are on. */
function* greys(page: Page, placed: readonly Placed[]): Generator<Finding> {
  const met = new Map<string, { readonly at: Point; count: number }>();
  for (const { entity, box } of placed) {
    if (inkColours(entity).every(isPlain)) continue;
    const known = met.get(entity.layerId);
    if (known) known.count++;
    else met.set(entity.layerId, { at: boxMiddle(box), count: 1 });
  }
  for (const layer of layersOf(page)) {
    const found = met.get(layer.id);
    if (found)
      yield {
        ...{ id: `grey:${layer.id}`, kind: 'grey', at: found.at },
        words: `${layer.name} has ${found.count === 1 ? 'a thing' : `${found.count} things`} in grey or colour: in black and white each turns into one of both.`,
      };
  }
}

/** The colours that an entity lays on the paper. */
const inkColours = (entity: DrawnEntity): readonly string[] =>
  entity.kind === 'area' && entity.fill.as === 'gradient'
    ? entity.fill.stops.map(({ color }) => color)
    : [colourOf(entity)].filter((color) => color !== undefined);

/** mm within which something that passes the trim was meant to bleed. */
const NEAR_MM = 0.3;

/** What goes over the trim but not out to the edge of the bleed: a cut that is a little off leaves paper there. */
export function shortBleed(page: Page, { scale }: PressSettings): Look {
  const { bleed } = sheetOf(page);
  const trim = trimBox(page);
  const { width, height, ppi } = page.size;
  const slack = mmToPx(NEAR_MM, ppi) / scale;
  return ({ entity: { id, kind }, box: { minX, minY, maxX, maxY } }) => {
    const isWithin = minX >= trim.minX && maxX <= trim.maxX && minY >= trim.minY && maxY <= trim.maxY;
    if (isWithin || bleed <= 0 || kind === 'lettering' || kind === 'balloon') return undefined;
    const sides: readonly (readonly [short: boolean, by: number, x: number, y: number])[] = [
      [minX < trim.minX - slack && minX > slack, minX, minX, (minY + maxY) / 2],
      [maxX > trim.maxX + slack && maxX < width - slack, width - maxX, maxX, (minY + maxY) / 2],
      [minY < trim.minY - slack && minY > slack, minY, (minX + maxX) / 2, minY],
      [maxY > trim.maxY + slack && maxY < height - slack, height - maxY, (minX + maxX) / 2, maxY],
    ];
    const short = sides.find(([is]) => is);
    return (
      short && {
        ...{ id: `bleed:${id}`, kind: 'bleed', at: { x: short[2], y: short[3] } },
        words: `It goes over the trim and ends ${(pxToMm(short[1], ppi) * scale).toFixed(1)} mm short of the bleed: paper may show at the cut.`,
      }
    );
  };
}
