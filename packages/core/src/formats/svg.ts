import {
  pxToMm,
  tileBox,
  TINT_COLOURS,
  WASH_SIDE,
  type LayerEntity,
  type Page,
  type PictureEntity,
  type SeenRough,
  type WashTileEntity,
} from '../page';
import { placementMatrix } from '../tools';
import { decimals, markedPaths, SvgNames } from './svgMarks';
import { pageWalk, type WalkChoice, type WalkNode } from './walk';

export interface SvgOptions extends Omit<WalkChoice, 'withRough'> {
  readonly title?: string;
  /** A picture, as its scan has it, as a `data:` address. Without it roughs are left out. */
  readonly pictureAddress?: (picture: PictureEntity) => string | undefined;
  /** The pixels of a wash tile as a `data:` address. Without it washes are left out. */
  readonly washAddress?: (blob: string) => string | undefined;
}

/**
 * The page as SVG 1.1: sized in mm at its ppi, drawn in page px, each mark one path of curves inside a group per layer, hidden layers left out.
 */
export function pageToSvg(page: Page, options: SvgOptions = {}): string {
  const { title, pictureAddress, washAddress } = options;
  const walk = pageWalk(page, { ...options, withRough: pictureAddress !== undefined });
  const { width, height, ppi } = walk.size;
  const mm = (px: number) => decimals(pxToMm(px, ppi), 4);
  const roughs = [...walk.under, ...walk.over];
  const parts = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" version="1.1" width="${mm(width)}mm" height="${mm(height)}mm" viewBox="0 0 ${width} ${height}">`,
    ...tintFilters(roughs.flatMap(({ pictures }) => pictures)),
  ];
  if (title) parts.push(`<title>${escaped(title)}</title>`);
  if (walk.paper !== null) parts.push(`<rect width="${width}" height="${height}" fill="${walk.paper}"/>`);
  if (pictureAddress) parts.push(...roughGroups(walk.under, pictureAddress, false));
  parts.push(...groupsOf(walk.nodes, { washAddress, names: new SvgNames('mark') }));
  if (pictureAddress) parts.push(...roughGroups(walk.over, pictureAddress, true));
  parts.push('</svg>');
  return `${parts.join('\n')}\n`;
}

/** How layers are written: where the pixels of washes are, and names for what is referred to. */
interface Writing {
  readonly washAddress: SvgOptions['washAddress'];
  readonly names: SvgNames;
}

/** Inks and washes as groups, lowest first. */
const groupsOf = (nodes: readonly WalkNode[], writing: Writing): string[] =>
  nodes.flatMap((node) => {
    const { layer } = node;
    switch (node.as) {
      case 'group':
        return grouped(layer, groupsOf(node.children, writing));
      case 'wash':
        return writing.washAddress ? washGroup(layer, node.tiles, writing.washAddress) : [];
      case 'ink': {
        const edge = layer.style?.edge === 'hard' ? ' shape-rendering="crispEdges"' : '';
        return grouped(layer, markedPaths(node.parts, writing.names), edge);
      }
    }
  });

const grouped = (layer: LayerEntity, inside: readonly string[], how = ''): string[] => [
  `<g${fade(layer)}${how}><title>${escaped(layer.name)}</title>`,
  ...inside,
  '</g>',
];

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

/** Pixels as they are, tile by tile. */
const washGroup = (
  layer: LayerEntity,
  tiles: readonly WashTileEntity[],
  address: (blob: string) => string | undefined,
): string[] =>
  grouped(
    layer,
    tiles.flatMap((tile) => {
      const href = address(tile.blob);
      const { minX, minY } = tileBox(tile);
      const size = `width="${WASH_SIDE}" height="${WASH_SIDE}"`;
      return href
        ? [`<image x="${minX}" y="${minY}" ${size} image-rendering="optimizeSpeed" xlink:href="${href}"/>`]
        : [];
    }),
  );

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

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (char) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[char] ?? char);
