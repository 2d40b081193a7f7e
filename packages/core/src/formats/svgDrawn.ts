import { colord, extend } from 'colord';
import namesPlugin from 'colord/plugins/names';
import svgpath from 'svgpath';
import { makeSpine } from '../curve';
import { bareOf, isDrawn, markBox, marksAt, marksOf, type DrawnEntity } from '../drawn';
import { PageError } from '../gate';
import { clamp, emptyBox, isEmptyBox, uniteBoxes } from '../math';
import type { Nib } from '../nib';
import { checkEntity } from '../page';
import { fromJson, toJson } from '../wire';
import { markedPaths, SvgNames } from './svgMarks';
import { parseSvg, type SvgElement } from './svgTree';
import { partsOf } from './walk';

/** Limits on what is pasted; all of them lie far beyond honest work. */
const LIMITS = { characters: 20_000_000, shapes: 20_000, segments: 200_000, depth: 64 } as const;
const LEAST_WIDTH = 0.1;
const MOST_WIDTH = 2_000;

/** Where something lies that was copied and not yet pasted: nowhere. */
const NOWHERE = { id: 'copied', layerId: 'copied', order: 'a0' } as const;

/**
 * What was drawn as an SVG that other programs can read: each mark a path. What it is goes along as data, so that it comes
 * back as it was.
 */
export function drawnToSvg(entities: readonly DrawnEntity[]): string {
  const box = entities.reduce((all, entity) => uniteBoxes(all, markBox(entity)), emptyBox);
  const { minX, minY, maxX, maxY } = isEmptyBox(box) ? { minX: 0, minY: 0, maxX: 1, maxY: 1 } : box;
  const names = new SvgNames('copied');
  const groups = entities.map((entity) => {
    const kept = JSON.stringify(toJson({ ...bareOf(entity), ...NOWHERE }));
    return `<g data-drawn="${encodeURIComponent(kept)}">${markedPaths(partsOf(marksAt(marksOf(entity), Infinity)), names).join('')}</g>`;
  });
  const view = [minX, minY, maxX - minX, maxY - minY].map((value) => Number(value.toFixed(2))).join(' ');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${view}">\n${groups.join('\n')}\n</svg>\n`;
}

/**
 * What is drawn in an SVG text, in its own px: what `drawnToSvg` wrote comes back as it was; of any other SVG the lines become
 * strokes as wide as they are, and shapes without a line their contour, drawn with `nib`. Pictures, text and filters are left
 * out. Throws a PageError for anything that is not plain, whole SVG, and for more than a page could hold.
 */
export function svgToDrawn(text: string, nib: Nib): DrawnEntity[] {
  if (text.length > LIMITS.characters) throw new PageError('What is to be pasted is larger than 20 MB.');
  const found: DrawnEntity[] = [];
  const room = { shapes: LIMITS.shapes, segments: LIMITS.segments };
  collect(parseSvg(text), [], { nib, found, room }, 0);
  if (found.length === 0) throw new PageError('There are no lines in this SVG.');
  return found;
}

interface Gathering {
  readonly nib: Nib;
  readonly found: DrawnEntity[];
  readonly room: { shapes: number; segments: number };
}

/** What is not drawn where it stands. */
const UNSEEN = new Set([
  'defs',
  'symbol',
  'clipPath',
  'mask',
  'marker',
  'pattern',
  'metadata',
  'title',
  'desc',
  'style',
  'text',
]);

function collect(
  element: SvgElement,
  transforms: readonly string[],
  gathering: Gathering,
  depth: number,
  look: Look = {},
): void {
  if (depth > LIMITS.depth) throw new PageError('This SVG is nested too deeply.');
  if (UNSEEN.has(element.name)) return;
  const own = lookOf(element.attributes, look);
  const { transform } = element.attributes;
  const chain = transform ? [transform, ...transforms] : transforms;
  const kept = element.attributes['data-drawn'];
  if (kept !== undefined && chain.length === 0) {
    spend(gathering);
    gathering.found.push(keptDrawn(kept));
    return;
  }
  const shape = shapeOf(element);
  if (shape !== undefined) gather(shape, chain, own, gathering);
  for (const child of element.children) collect(child, chain, gathering, depth + 1, own);
}

interface Look {
  readonly fill?: string;
  readonly stroke?: string;
  readonly width?: number;
}

function lookOf(attributes: Readonly<Record<string, string>>, outer: Look): Look {
  const style = Object.fromEntries(
    (attributes.style ?? '').split(';').map((part) => part.split(':').map((word) => word.trim())),
  );
  const said = (name: string): string | undefined => style[name] ?? attributes[name];
  const width = Number.parseFloat(said('stroke-width') ?? '');
  return {
    fill: said('fill') ?? outer.fill,
    stroke: said('stroke') ?? outer.stroke,
    width: Number.isFinite(width) ? width : outer.width,
  };
}

/** The outline of a basic shape as path data (SVG 2, chapter 10). */
function shapeOf({ name, attributes }: SvgElement): string | undefined {
  const n = (key: string, otherwise = 0) => {
    const value = Number.parseFloat(attributes[key] ?? '');
    return Number.isFinite(value) ? value : otherwise;
  };
  switch (name) {
    case 'path':
      return attributes.d ?? '';
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
    case 'polyline':
      return `M${attributes.points ?? ''}`;
    case 'polygon':
      return `M${attributes.points ?? ''}Z`;
    case 'rect':
      return `M${n('x')} ${n('y')}h${n('width')}v${n('height')}h${-n('width')}Z`;
    case 'circle':
      return ellipse(n('cx'), n('cy'), n('r'), n('r'));
    case 'ellipse':
      return ellipse(n('cx'), n('cy'), n('rx'), n('ry'));
    default:
      return undefined;
  }
}

const ellipse = (cx: number, cy: number, rx: number, ry: number): string =>
  `M${cx - rx} ${cy}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0Z`;

function spend({ room }: Gathering): void {
  if (--room.shapes < 0) throw new PageError(`This SVG holds more than ${LIMITS.shapes} shapes.`);
}

function gather(data: string, transforms: readonly string[], look: Look, gathering: Gathering): void {
  const { nib, found, room } = gathering;
  spend(gathering);
  const parsed = svgpath(data);
  // The package stops at what it cannot read without a word, but for this field, which its types do not know.
  if (Reflect.get(parsed, 'err')) throw new PageError('A line in this SVG is damaged.');
  const path = transforms.reduce((mapped, transform) => mapped.transform(transform), parsed.abs().unshort().unarc());
  const scale = transforms.length === 0 ? 1 : scaleUnder(transforms);
  const hasLine = look.stroke !== undefined && look.stroke !== 'none';
  const width = clamp(hasLine ? (look.width ?? 1) * scale : nib.size, LEAST_WIDTH, MOST_WIDTH);
  const color = hexOf(hasLine ? look.stroke : look.fill) ?? nib.color;
  for (const { points, closed } of coursesOf(path, width, room))
    found.push({
      kind: 'stroke',
      ...NOWHERE,
      spine: makeSpine(points, closed),
      nib: { ...nib, name: 'Pasted line', size: width, thinnest: 1, taperIn: 0, taperOut: 0, color },
      ends: ['round', 'round'],
    });
}

function keptDrawn(kept: string): DrawnEntity {
  let value: unknown;
  try {
    value = fromJson(JSON.parse(decodeURIComponent(kept)));
  } catch {
    throw new PageError('What was copied in this SVG is damaged.');
  }
  const entity = checkEntity(value);
  if (!isDrawn(entity)) throw new PageError('What was copied in this SVG cannot be drawn.');
  return bareOf(entity);
}

/** How much transforms enlarge lengths, from where they take three points. */
function scaleUnder(transforms: readonly string[]): number {
  const corner = transforms.reduce((mapped, transform) => mapped.transform(transform), svgpath('M0 0L1 0L0 1').abs());
  const at: number[][] = [];
  corner.iterate((segment) => void at.push(segment.slice(1).map(Number)));
  const [o, x, y] = at;
  if (!o || !x || !y) return 1;
  return Math.sqrt(Math.abs((x[0] - o[0]) * (y[1] - o[1]) - (x[1] - o[1]) * (y[0] - o[0])));
}

interface Course {
  readonly points: Float64Array;
  readonly closed: boolean;
}

function coursesOf(path: ReturnType<typeof svgpath>, width: number, room: { segments: number }): Course[] {
  const courses: Course[] = [];
  let points: number[] = [];
  const finish = () => {
    if (points.length > 3) courses.push({ points: Float64Array.from(points), closed: false });
    points = [];
  };
  const cubic = ([x1, y1, x2, y2, x, y]: readonly number[]) => {
    if (--room.segments < 0) throw new PageError(`This SVG holds more than ${LIMITS.segments} curves.`);
    points.push(x1, y1, width, x2, y2, width, x, y, width);
  };
  const line = (fromX: number, fromY: number, x: number, y: number) => {
    if (fromX === x && fromY === y) return;
    const [dx, dy] = [(x - fromX) / 3, (y - fromY) / 3];
    cubic([fromX + dx, fromY + dy, fromX + 2 * dx, fromY + 2 * dy, x, y]);
  };
  let start = { x: 0, y: 0 };
  path.iterate((segment, _index, x, y) => {
    const v = segment.slice(1).map(Number);
    if (!v.every(Number.isFinite)) throw new PageError('A line in this SVG has no numbers to go by.');
    if (segment[0] === 'M') {
      finish();
      start = { x: v[0], y: v[1] };
      points = [v[0], v[1], width];
      return;
    }
    // A path that goes on after it was closed begins anew where it began before.
    if (points.length === 0) points = [x, y, width];
    if (segment[0] === 'L') line(x, y, v[0], v[1]);
    else if (segment[0] === 'H') line(x, y, v[0], y);
    else if (segment[0] === 'V') line(x, y, x, v[0]);
    else if (segment[0] === 'C') cubic(v);
    else if (segment[0] === 'Q')
      cubic([
        x + (2 / 3) * (v[0] - x),
        y + (2 / 3) * (v[1] - y),
        v[2] + (2 / 3) * (v[0] - v[2]),
        v[3] + (2 / 3) * (v[1] - v[3]),
        v[2],
        v[3],
      ]);
    else if (segment[0] === 'Z') {
      line(x, y, start.x, start.y);
      finish();
    }
  });
  finish();
  return courses;
}

extend([namesPlugin]);

/** A colour as #rrggbb, however CSS lets it be written; nothing for what is none, or cannot be seen. */
function hexOf(colour: string | undefined): string | undefined {
  const read = colord(colour?.trim() ?? '');
  return read.isValid() && read.alpha() > 0 ? read.alpha(1).toHex() : undefined;
}
