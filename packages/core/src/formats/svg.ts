import { outlineOf } from '../ink';
import {
  byOrder,
  ofKind,
  paperOf,
  pxToMm,
  stackOf,
  styledStroke,
  tileBox,
  TINT_COLOURS,
  WASH_SIDE,
  type EntityId,
  type LayerEntity,
  type Page,
  type PictureEntity,
  type StackNode,
  type Stroke,
  type StrokeEntity,
  type WashTileEntity,
} from '../page';
import { placementMatrix } from '../tools';

export interface SvgOptions {
  readonly title?: string;
  /** The picture of a blob as a `data:` address. Without it roughs are left out. */
  readonly pictureAddress?: (blob: string) => string | undefined;
  /** The pixels of a wash tile as a `data:` address. Without it washes are left out. */
  readonly washAddress?: (blob: string) => string | undefined;
  /** `false` leaves the ground transparent; white paper otherwise. */
  readonly paper?: boolean;
}

/**
 * The page as SVG 1.1: sized in mm at its ppi, drawn in page px, each stroke one path (non-zero fill) inside a group per
 * layer, hidden layers left out.
 */
export function pageToSvg(page: Page, options: SvgOptions = {}): string {
  const { width, height, ppi } = page.size;
  const mm = (px: number) => decimals(pxToMm(px, ppi), 4);
  const parts = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" version="1.1" width="${mm(width)}mm" height="${mm(height)}mm" viewBox="0 0 ${width} ${height}">`,
  ];
  if (options.pictureAddress) parts.push(...tintFilters(ofKind(page, 'picture')));
  if (options.title) parts.push(`<title>${escaped(options.title)}</title>`);
  const paper = paperOf(page);
  if (options.paper !== false && paper !== null)
    parts.push(`<rect width="${width}" height="${height}" fill="${paper}"/>`);
  const laid: Laid = {
    strokes: byLayer(ofKind(page, 'stroke')),
    pictures: byLayer(ofKind(page, 'picture')),
    washes: byLayer(ofKind(page, 'wash')),
  };
  parts.push(...groupsOf(stackOf(page), laid, options, { hasInkBelow: false }), '</svg>');
  return `${parts.join('\n')}\n`;
}

interface Laid {
  readonly strokes: ReadonlyMap<EntityId, readonly StrokeEntity[]>;
  readonly pictures: ReadonlyMap<EntityId, readonly PictureEntity[]>;
  readonly washes: ReadonlyMap<EntityId, readonly WashTileEntity[]>;
}

/** Layers as groups, lowest first; `below` remembers whether ink was laid down already. */
function groupsOf(
  nodes: readonly StackNode[],
  laid: Laid,
  { pictureAddress, washAddress }: SvgOptions,
  below: { hasInkBelow: boolean },
): string[] {
  return nodes.flatMap(({ layer, children, isHidden }) => {
    if (isHidden) return [];
    if (layer.medium === 'group')
      return [
        `<g${fade(layer)}><title>${escaped(layer.name)}</title>`,
        ...groupsOf(children, laid, { pictureAddress, washAddress }, below),
        '</g>',
      ];
    if (layer.medium === 'rough')
      return pictureAddress
        ? roughGroup(layer, laid.pictures.get(layer.id) ?? [], pictureAddress, below.hasInkBelow)
        : [];
    below.hasInkBelow = true;
    if (layer.medium === 'wash')
      return washAddress ? washGroup(layer, laid.washes.get(layer.id) ?? [], washAddress) : [];
    return inkGroup(layer, laid.strokes.get(layer.id) ?? []);
  });
}

const fade = ({ opacity }: LayerEntity): string => (opacity < 1 ? ` opacity="${decimals(opacity, 4)}"` : '');

/** Tints as colour matrices: the luminance, screened with the tint (Compositing and Blending Level 1, §10.1.3). */
function tintFilters(pictures: readonly PictureEntity[]): string[] {
  const used = new Set(pictures.map(({ tint }) => tint));
  return Object.entries(TINT_COLOURS).flatMap(([tint, colour]) => {
    if (![...used].some((one) => one === tint)) return [];
    const rows = [1, 3, 5].map((at) => {
      const floor = parseInt(colour.slice(at, at + 2), 16) / 255;
      return [...[0.3, 0.59, 0.11].map((weight) => decimals(weight * (1 - floor), 4)), 0, decimals(floor, 4)].join(' ');
    });
    const matrix = `<feColorMatrix type="matrix" values="${rows.join(' ')} 0 0 0 1 0"/>`;
    return [
      `<filter id="tint-${tint}" x="0" y="0" width="1" height="1" color-interpolation-filters="sRGB">${matrix}</filter>`,
    ];
  });
}

/** Lines as their layer shows them; a stand-in colour is never delivered. */
function inkGroup(layer: LayerEntity, strokes: readonly StrokeEntity[]): string[] {
  const paths = [...strokes].sort(byOrder).map((stroke) => {
    const shown = styledStroke(stroke, layer.style);
    return `<path ${inkOf(shown)}/>`;
  });
  const edge = layer.style?.edge === 'hard' ? ' shape-rendering="crispEdges"' : '';
  return [`<g${fade(layer)}${edge}><title>${escaped(layer.name)}</title>`, ...paths, '</g>'];
}

/** Pixels as they are, tile by tile. */
function washGroup(
  layer: LayerEntity,
  tiles: readonly WashTileEntity[],
  address: (blob: string) => string | undefined,
): string[] {
  const images = tiles.flatMap((tile) => {
    const href = address(tile.blob);
    const { minX, minY } = tileBox(tile);
    const size = `width="${WASH_SIDE}" height="${WASH_SIDE}"`;
    return href
      ? [`<image x="${minX}" y="${minY}" ${size} image-rendering="optimizeSpeed" xlink:href="${href}"/>`]
      : [];
  });
  return [`<g${fade(layer)}><title>${escaped(layer.name)}</title>`, ...images, '</g>'];
}

function roughGroup(
  layer: LayerEntity,
  pictures: readonly PictureEntity[],
  address: (blob: string) => string | undefined,
  isOverInk: boolean,
): string[] {
  const images = [...pictures].sort(byOrder).flatMap((picture) => {
    const href = address(picture.blob);
    if (!href) return [];
    const matrix = placementMatrix(picture.placement, picture)
      .map((value) => decimals(value, 6))
      .join(' ');
    const filter = picture.tint === 'none' ? '' : ` filter="url(#tint-${picture.tint})"`;
    return `<image${filter} width="${picture.width}" height="${picture.height}" opacity="${picture.opacity}" transform="matrix(${matrix})" xlink:href="${href}"/>`;
  });
  const blend = isOverInk ? ' style="mix-blend-mode:multiply"' : '';
  return [`<g${fade(layer)}${blend}><title>${escaped(layer.name)}</title>`, ...images, '</g>'];
}

/** A stroke's outline and how it is filled, as attributes of a path. */
export function inkOf(stroke: Stroke): string {
  const { color, opacity } = stroke.nib;
  const through = opacity === undefined ? '' : ` fill-opacity="${decimals(opacity, 4)}"`;
  return `fill="${color}"${through} d="${outlineOf(stroke).rings.map(pathData).join('')}"`;
}

/** A closed path through x, y pairs, to 1/100 px, written in steps from point to point without growing error. */
function pathData(points: Float64Array): string {
  let x = Math.round(points[0] * 100);
  let y = Math.round(points[1] * 100);
  const parts = [`M${x / 100} ${y / 100}l`];
  for (let i = 2; i < points.length; i += 2) {
    const nextX = Math.round(points[i] * 100);
    const nextY = Math.round(points[i + 1] * 100);
    if (nextX === x && nextY === y) continue;
    parts.push(`${(nextX - x) / 100} ${(nextY - y) / 100} `);
    x = nextX;
    y = nextY;
  }
  return `${parts.join('').trimEnd()}z`;
}

function byLayer<E extends { readonly layerId: EntityId }>(entities: readonly E[]): Map<EntityId, E[]> {
  const groups = new Map<EntityId, E[]>();
  for (const entity of entities) {
    const group = groups.get(entity.layerId);
    if (group) group.push(entity);
    else groups.set(entity.layerId, [entity]);
  }
  return groups;
}

const decimals = (value: number, places: number): number => Number(value.toFixed(places));

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (char) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[char] ?? char);
