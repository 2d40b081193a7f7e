import { XMLValidator } from 'fast-xml-parser';
import { unzipSync } from 'fflate';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import { checkSize, type PageSize } from '../page';
import type { Pixels } from './pdfKept';
import type { PageWalk, WalkNode } from './walk';
import { xmlTree, type XmlElement } from './xmlTree';
import { ZipWriter } from './zip';

const MIME = 'image/openraster';

/** The longest side of the small picture in the file (OpenRaster, Thumbnails). */
export const ORA_THUMBNAIL = 256;

/** The pictures of an OpenRaster file, as PNG bytes of the whole page each. */
export interface OraPictures {
  /** What one layer shows, without its fade; nothing for one that is bare. */
  layer(layerId: EntityId): Promise<Uint8Array | undefined>;
  /** All of the page. */
  merged(): Promise<Uint8Array>;
  /** The same, no side longer than `ORA_THUMBNAIL`. */
  thumbnail(): Promise<Uint8Array>;
}

/**
 * A page as OpenRaster (0.0.6): `mimetype` first and stored, a stack of all layers that are seen, their pictures, the page as a whole and a small
 * picture of it. Answers its bytes as they come to be.
 */
export async function* pageToOra(walk: PageWalk, pictures: OraPictures): AsyncGenerator<Uint8Array> {
  const zip = new ZipWriter();
  yield* zip.add('mimetype', utf8(MIME), { stored: true });
  const layers = [
    ...walk.under.map(({ layer, opacity }) => oneLayer(layer, opacity)),
    ...walk.nodes.map((node) => ofNode(node)),
    ...walk.over.map(({ layer, opacity }) => ({ ...oneLayer(layer, opacity), blend: 'svg:multiply' })),
  ];
  const bare = new Set<EntityId>();
  for (const id of layers.flatMap(idsIn)) {
    const png = await pictures.layer(id);
    if (png) yield* zip.add(fileOf(id, layers), png, { stored: true });
    else bare.add(id);
  }
  const { width, height, ppi } = walk.size;
  const xml = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<image version="0.0.6" w="${width}" h="${height}" xres="${Math.round(ppi)}" yres="${Math.round(ppi)}">`,
    ...stackOf(layers, bare, layers),
    '</image>',
  ];
  yield* zip.add('stack.xml', utf8(`${xml.join('\n')}\n`));
  yield* zip.add('mergedimage.png', await pictures.merged(), { stored: true });
  yield* zip.add('Thumbnails/thumbnail.png', await pictures.thumbnail(), { stored: true });
  yield* zip.finish();
}

/** A layer, or a group of them, lowest first, as the file has it. */
interface Entry {
  readonly id: EntityId;
  readonly name: string;
  readonly opacity: number;
  readonly blend: string;
  readonly children?: readonly Entry[];
}

const oneLayer = ({ id, name }: { readonly id: EntityId; readonly name: string }, opacity: number): Entry => ({
  ...{ id, name, opacity },
  blend: 'svg:src-over',
});

const ofNode = (node: WalkNode): Entry => ({
  ...oneLayer(node.layer, node.layer.opacity),
  ...(node.as === 'group' && { children: node.children.map(ofNode) }),
});

const idsIn = (entry: Entry): EntityId[] => (entry.children ? entry.children.flatMap(idsIn) : [entry.id]);

const fileOf = (id: EntityId, layers: readonly Entry[]): string =>
  `data/layer${String(layers.flatMap(idsIn).indexOf(id) + 1).padStart(3, '0')}.png`;

/** The file lists the highest layer first. */
function stackOf(entries: readonly Entry[], bare: ReadonlySet<EntityId>, all: readonly Entry[]): string[] {
  const inside = [...entries].reverse().flatMap((entry): string[] => {
    const how = `name="${escaped(entry.name)}" opacity="${Number(entry.opacity.toFixed(4))}" visibility="visible" composite-op="${entry.blend}"`;
    if (entry.children) return stackOf(entry.children, bare, all).map((line, k) => (k === 0 ? `<stack ${how}>` : line));
    return bare.has(entry.id) ? [] : [`<layer ${how} src="${fileOf(entry.id, all)}" x="0" y="0"/>`];
  });
  return ['<stack>', ...inside, '</stack>'];
}

/** Limits on what is read; all of them lie far beyond honest work. */
const LIMITS = { bytes: 2 ** 29, layers: 500, depth: 16, xml: 2 ** 21 } as const;

/** A layer as it was read: where its picture lies, page px; or a group. */
export interface OraLayer {
  readonly name: string;
  readonly opacity: number;
  readonly hidden: boolean;
  /** It multiplies what lies beneath it. */
  readonly multiplies: boolean;
  readonly x: number;
  readonly y: number;
  readonly pixels?: Pixels;
  /** Lowest first. */
  readonly children?: readonly OraLayer[];
}

export interface ReadOra {
  readonly size: PageSize;
  /** Lowest first. */
  readonly layers: readonly OraLayer[];
  /** What could not be taken as it is, in sentences. */
  readonly said: readonly string[];
}

/** How a picture in the file is decoded; throws where it cannot be. */
export type Decode = (png: Uint8Array) => Promise<Pixels>;

/**
 * Reads an OpenRaster file as far as it goes. Throws a PageError for what is none, is cut short, or is larger than a page can be; says what
 * there is none of here.
 */
export async function oraToPage(bytes: Uint8Array, decode: Decode): Promise<ReadOra> {
  const files = unzipped(bytes);
  const mime = files.get('mimetype');
  const xml = files.get('stack.xml');
  if (!mime || new TextDecoder().decode(mime).trim() !== MIME || !xml || xml.length > LIMITS.xml)
    throw new PageError('This is not an OpenRaster file, or a part of it is missing.');
  const image = parsed(new TextDecoder().decode(xml));
  const number = (value: string | undefined, otherwise: number) =>
    value !== undefined && Number.isFinite(Number(value)) ? Number(value) : otherwise;
  const size = checkSize({
    width: number(image.attributes.w, 0),
    height: number(image.attributes.h, 0),
    ppi: Math.min(1_200, Math.max(30, number(image.attributes.xres, 300))),
  });
  const said: string[] = [];
  let count = 0;
  const read = async (element: XmlElement, depth: number): Promise<OraLayer[]> => {
    if (depth > LIMITS.depth) throw new PageError('The layers of this file are nested too deeply.');
    const layers: OraLayer[] = [];
    for (const child of [...element.children].reverse()) {
      if (child.name !== 'layer' && child.name !== 'stack') continue;
      if (++count > LIMITS.layers) throw new PageError(`This file has more than ${LIMITS.layers} layers.`);
      const { attributes } = child;
      const name = attributes.name?.slice(0, 100) || `Layer ${count}`;
      const blend = attributes['composite-op'] ?? 'svg:src-over';
      if (blend !== 'svg:src-over' && blend !== 'svg:multiply')
        said.push(
          `“${name}” is laid on by “${blend.replace(/^svg:/, '')}”, which there is none of here: it lies plainly.`,
        );
      const own = {
        name,
        opacity: Math.min(1, Math.max(0, number(attributes.opacity, 1))),
        hidden: attributes.visibility === 'hidden',
        multiplies: blend === 'svg:multiply',
        ...{ x: Math.round(number(attributes.x, 0)), y: Math.round(number(attributes.y, 0)) },
      };
      if (child.name === 'stack') layers.push({ ...own, children: await read(child, depth + 1) });
      else {
        const png = attributes.src === undefined ? undefined : files.get(attributes.src);
        const pixels = png && (await decode(png).catch(() => undefined));
        if (pixels) layers.push({ ...own, pixels });
        else said.push(`The picture of “${name}” is missing or damaged: the layer is left out.`);
      }
    }
    return layers;
  };
  const [stack] = image.children.filter(({ name }) => name === 'stack');
  if (!stack) throw new PageError('This OpenRaster file has no layers.');
  return { size, layers: await read(stack, 0), said };
}

function unzipped(bytes: Uint8Array): Map<string, Uint8Array> {
  let sum = 0;
  try {
    const files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        // Sizes in the directory are what is made room for.
        sum += originalSize;
        if (sum > LIMITS.bytes) throw new PageError('This file unpacks to more than 512 MB.');
        return name === 'mimetype' || name === 'stack.xml' || name.endsWith('.png');
      },
    });
    return new Map(Object.entries(files));
  } catch (error) {
    if (error instanceof PageError) throw error;
    throw new PageError('This file is cut short or damaged: it cannot be unpacked.');
  }
}

function parsed(xml: string): XmlElement {
  if (/<!DOCTYPE|<!ENTITY/i.test(xml)) throw new PageError('The list of layers in this file is not plain XML.');
  const image = XMLValidator.validate(xml) === true && xmlTree(xml, true).find(({ name }) => name === 'image');
  if (!image) throw new PageError('The list of layers in this file is damaged.');
  return image;
}

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (char) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[char] ?? char);
