import { allMarks, framesOf, isDrawn, shownUnder, type DrawnEntity, type Frames } from '../drawn';
import {
  byOrder,
  ofKind,
  paperOf,
  pxToMm,
  roughsOf,
  stackOf,
  tileBox,
  TINT_COLOURS,
  WASH_SIDE,
  type LayerEntity,
  type Page,
  type PictureEntity,
  type SeenRough,
  type StackNode,
  type WashTileEntity,
} from '../page';
import type { EntityId } from '../kind';
import { placementMatrix } from '../tools';
import { decimals, markedPaths, SvgNames } from './svgMarks';

export interface SvgOptions {
  readonly title?: string;
  /** A picture, as its scan has it, as a `data:` address. Without it roughs are left out. */
  readonly pictureAddress?: (picture: PictureEntity) => string | undefined;
  /** The pixels of a wash tile as a `data:` address. Without it washes are left out. */
  readonly washAddress?: (blob: string) => string | undefined;
  /** `false` leaves the ground transparent; white paper otherwise. */
  readonly paper?: boolean;
}

/**
 * The page as SVG 1.1: sized in mm at its ppi, drawn in page px, each mark one path inside a group per layer, hidden layers left out.
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
    drawn: byLayer([...page.entities].filter(isDrawn)),
    washes: byLayer(ofKind(page, 'wash')),
  };
  const { under, over } = roughsOf(page);
  const roughs = (some: readonly SeenRough[], isOver: boolean) =>
    options.pictureAddress ? roughGroups(some, options.pictureAddress, isOver) : [];
  parts.push(...roughs(under, false));
  parts.push(
    ...groupsOf(stackOf(page), laid, {
      washAddress: options.washAddress,
      names: new SvgNames('mark'),
      frames: framesOf(page),
    }),
  );
  parts.push(...roughs(over, true), '</svg>');
  return `${parts.join('\n')}\n`;
}

interface Laid {
  readonly drawn: ReadonlyMap<EntityId, readonly DrawnEntity[]>;
  readonly washes: ReadonlyMap<EntityId, readonly WashTileEntity[]>;
}

/** How inks are written: where the pixels of washes are, and names for what is referred to. */
interface InkWriting extends Pick<SvgOptions, 'washAddress'> {
  readonly names: SvgNames;
  readonly frames: Frames;
}

/** Inks and washes as groups, lowest first. */
function groupsOf(nodes: readonly StackNode[], laid: Laid, writing: InkWriting): string[] {
  return nodes.flatMap(({ layer, children, isHidden }) => {
    if (isHidden) return [];
    switch (layer.medium) {
      case 'group':
        return [`<g${fade(layer)}><title>${escaped(layer.name)}</title>`, ...groupsOf(children, laid, writing), '</g>'];
      case 'rough':
        return [];
      case 'wash':
        return writing.washAddress ? washGroup(layer, laid.washes.get(layer.id) ?? [], writing.washAddress) : [];
      case 'ink':
        return inkGroup(layer, laid.drawn.get(layer.id) ?? [], writing);
    }
  });
}

const fade = ({ opacity }: Pick<LayerEntity, 'opacity'>): string =>
  opacity < 1 ? ` opacity="${decimals(opacity, 4)}"` : '';

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

/** What lies on a layer as the layer shows it; a stand-in colour is never delivered. */
function inkGroup(layer: LayerEntity, drawn: readonly DrawnEntity[], { names, frames }: InkWriting): string[] {
  const shown = [...drawn].sort(byOrder).map((entity) => shownUnder(entity, layer.style));
  const edge = layer.style?.edge === 'hard' ? ' shape-rendering="crispEdges"' : '';
  return [
    `<g${fade(layer)}${edge}><title>${escaped(layer.name)}</title>`,
    ...markedPaths(allMarks(shown, frames), names),
    '</g>',
  ];
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

/** Roughs, each as a group of its pictures. */
function roughGroups(
  roughs: readonly SeenRough[],
  address: (picture: PictureEntity) => string | undefined,
  isOver: boolean,
): string[] {
  const blend = isOver ? ' style="mix-blend-mode:multiply"' : '';
  return roughs.flatMap((rough) => [
    `<g${fade(rough)}${blend}><title>${escaped(rough.layer.name)}</title>`,
    ...rough.pictures.flatMap((picture) => pictureImage(picture, address)),
    '</g>',
  ]);
}

function pictureImage(picture: PictureEntity, address: (picture: PictureEntity) => string | undefined): string[] {
  const href = address(picture);
  if (!href) return [];
  const matrix = placementMatrix(picture.placement, picture)
    .map((value) => decimals(value, 6))
    .join(' ');
  const filter = picture.tint === 'none' ? '' : ` filter="url(#tint-${picture.tint})"`;
  return [
    `<image${filter} width="${picture.width}" height="${picture.height}" opacity="${picture.opacity}" transform="matrix(${matrix})" xlink:href="${href}"/>`,
  ];
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

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (char) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[char] ?? char);
