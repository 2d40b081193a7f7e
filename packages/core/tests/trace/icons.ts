import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import svgpath from 'svgpath';
import { flattenSpine, STRIDE, type Spine } from '../../src/curve';
import { outlineOf } from '../../src/ink';
import type { InkRaster, TracedBlack, TracedLine } from '../../src/trace';

// Source of the drawings: the icons of lucide-static 1.62 (ISC), whose centre lines are exact: one subpath is one line.
const folder = join(process.cwd(), 'node_modules/lucide-static/icons');

/** A line whose course is known: points of it, x, y, about a tenth of an icon's px apart; where it has corners; and its cubics. */
export interface TrueLine {
  readonly points: readonly (readonly [number, number])[];
  readonly corners: readonly (readonly [number, number])[];
  readonly cubics: number;
  readonly isClosed: boolean;
}

export interface Icon {
  readonly name: string;
  readonly svg: string;
  readonly lines: readonly TrueLine[];
}

/** Every icon with an odd number, or an even one, in the order of their names; `each` takes one of so many of them. */
export function iconsOf(which: 'odd' | 'even', each: number): Icon[] {
  const names = readdirSync(folder)
    .filter((name) => name.endsWith('.svg'))
    .sort();
  return names
    .filter((_, k) => k % 2 === (which === 'odd' ? 1 : 0))
    .filter((_, k) => k % each === 0)
    .flatMap((name) => {
      const svg = readFileSync(join(folder, name), 'utf8');
      // Filled shapes are no lines.
      return /fill="(?!none)/.test(svg) ? [] : [{ name, svg, lines: linesIn(svg) }];
    });
}

export function linesIn(svg: string): TrueLine[] {
  const all: TrueLine[] = [];
  for (const [, tag, attributes] of svg.matchAll(/<(path|circle|rect|line|polyline|polygon|ellipse)\s([^>]*?)\/?>/g)) {
    const at = (name: string) => Number(new RegExp(`(?:^|\\s)${name}="([^"]*)"`).exec(attributes)?.[1] ?? NaN);
    const text = (name: string) => new RegExp(`(?:^|\\s)${name}="([^"]*)"`).exec(attributes)?.[1] ?? '';
    all.push(...linesOfPath(pathOf(tag, at, text)));
  }
  return all.filter(({ points }) => points.length > 0);
}

function pathOf(tag: string, at: (name: string) => number, text: (name: string) => string): string {
  const ellipse = (cx: number, cy: number, rx: number, ry: number) =>
    `M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx} ${cy + ry}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx} ${cy - ry}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`;
  switch (tag) {
    case 'path':
      return text('d');
    case 'circle':
      return ellipse(at('cx'), at('cy'), at('r'), at('r'));
    case 'ellipse':
      return ellipse(at('cx'), at('cy'), at('rx'), at('ry'));
    case 'line':
      return `M${at('x1')} ${at('y1')}L${at('x2')} ${at('y2')}`;
    case 'rect': {
      const [x, y, w, h] = [at('x') || 0, at('y') || 0, at('width'), at('height')];
      const r = Math.min(at('rx') || at('ry') || 0, w / 2, h / 2);
      const arc = (px: number, py: number) => (r > 0 ? `A${r} ${r} 0 0 1 ${px} ${py}` : '');
      return `M${x + r} ${y}L${x + w - r} ${y}${arc(x + w, y + r)}L${x + w} ${y + h - r}${arc(x + w - r, y + h)}L${x + r} ${y + h}${arc(x, y + h - r)}L${x} ${y + r}${arc(x + r, y)}Z`;
    }
    default:
      return `M${text('points')}${tag === 'polygon' ? 'Z' : ''}`;
  }
}

function linesOfPath(d: string): TrueLine[] {
  const lines: TrueLine[] = [];
  let points: [number, number][] = [];
  let corners: [number, number][] = [];
  let cubics = 0;
  let [x0, y0, x, y] = [0, 0, 0, 0];
  let [ox, oy] = [NaN, NaN];
  /** The direction in which the last cubic arrived, and that of the first. */
  let last: [number, number] | undefined;
  let first: [number, number] | undefined;
  const end = (isClosed: boolean) => {
    if (points.length > 1) lines.push({ points, corners, cubics, isClosed });
    [points, corners, cubics, last, first] = [[], [], 0, undefined, undefined];
  };
  const turns = (u: [number, number], v: [number, number]) =>
    Math.abs(Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1])) > Math.PI / 4;
  const cubic = (x1: number, y1: number, x2: number, y2: number, x3: number, y3: number) => {
    const long = Math.hypot(x1 - x, y1 - y) + Math.hypot(x2 - x1, y2 - y1) + Math.hypot(x3 - x2, y3 - y2);
    if (long < 1e-9) return;
    const towards = (...ways: [number, number][]) => ways.find(([dx, dy]) => Math.hypot(dx, dy) > 1e-9) ?? [1, 0];
    const out = towards([x1 - x, y1 - y], [x2 - x, y2 - y], [x3 - x, y3 - y]);
    const into = towards([x3 - x2, y3 - y2], [x3 - x1, y3 - y1], [x3 - x, y3 - y]);
    if (last && turns(last, out)) corners.push([x, y]);
    first ??= out;
    last = into;
    if (points.length === 0) points.push([x, y]);
    const count = Math.max(1, Math.ceil(long / 0.1));
    for (let k = 1; k <= count; k++) {
      const t = k / count;
      const s = 1 - t;
      points.push([
        s * s * s * x + 3 * s * s * t * x1 + 3 * s * t * t * x2 + t * t * t * x3,
        s * s * s * y + 3 * s * s * t * y1 + 3 * s * t * t * y2 + t * t * t * y3,
      ]);
    }
    cubics++;
    [x, y] = [x3, y3];
  };
  const line = (px: number, py: number) =>
    cubic(x + (px - x) / 3, y + (py - y) / 3, x + (2 * (px - x)) / 3, y + (2 * (py - y)) / 3, px, py);
  svgpath(d)
    .abs()
    .unarc()
    .unshort()
    .iterate((segment) => {
      const [command, ...n] = segment as [string, ...number[]];
      if (command === 'M') {
        end(false);
        [x0, y0, x, y] = [n[0], n[1], n[0], n[1]];
      } else if (command === 'L') line(n[0], n[1]);
      else if (command === 'H') line(n[0], y);
      else if (command === 'V') line(x, n[0]);
      else if (command === 'C') cubic(n[0], n[1], n[2], n[3], n[4], n[5]);
      else if (command === 'Q')
        cubic(
          x + (2 / 3) * (n[0] - x),
          y + (2 / 3) * (n[1] - y),
          n[2] + (2 / 3) * (n[0] - n[2]),
          n[3] + (2 / 3) * (n[1] - n[3]),
          n[2],
          n[3],
        );
      else if (command === 'Z' || command === 'z') {
        if (Math.hypot(x - x0, y - y0) > 1e-6) line(x0, y0);
        if (last && first && turns(last, first)) corners.push([x0, y0]);
        end(true);
        [x, y] = [x0, y0];
      }
      [ox, oy] = [x, y];
    });
  end(false);
  return Number.isNaN(ox + oy) ? [] : lines;
}

/** What a picture goes through on its way from the pen to the scan. */
export type Wear = 'clean' | 'blur' | 'noise' | 'jpeg' | 'paper';

/** An icon as a picture of ink, its lines so many px wide and that share of 24 its side long. */
export async function scanned(
  { svg }: Icon,
  {
    line,
    width,
    wear,
    seed = 1,
  }: { readonly line: number; readonly width: number; readonly wear: Wear; readonly seed?: number },
): Promise<InkRaster & { readonly scale: number }> {
  const scale = line / width;
  const side = Math.round(24 * scale);
  const drawn = svg
    .replace(/stroke-width="[^"]*"/, `stroke-width="${width}"`)
    .replace(/width="24"/, `width="${side}"`)
    .replace(/height="24"/, `height="${side}"`)
    .replace(/currentColor/g, '#000');
  let picture = sharp(Buffer.from(drawn)).resize(side, side).flatten({ background: '#fff' }).greyscale();
  if (wear === 'blur')
    picture = sharp(await picture.png().toBuffer())
      .blur(0.15 * line + 0.3)
      .greyscale();
  if (wear === 'jpeg') picture = sharp(await picture.jpeg({ quality: 40 }).toBuffer()).greyscale();
  const { data } = await picture.raw().toBuffer({ resolveWithObject: true });
  const ink = new Uint8Array(side * side);
  let state = seed >>> 0;
  const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  for (let i = 0; i < ink.length; i++) {
    let grey = data[i];
    if (wear === 'noise') grey += 18 * (random() + random() + random() + random() - 2) * 1.7;
    if (wear === 'paper') {
      const [x, y] = [(i % side) / side, Math.floor(i / side) / side];
      grey = grey * (0.72 + 0.22 * x - 0.1 * y * y) + 6 * (random() - 0.5);
    }
    ink[i] = 255 - Math.max(0, Math.min(255, Math.round(grey)));
  }
  return { width: side, height: side, ink, scale };
}

/** Points of traced lines, x, y, width, about a px apart. */
export function sampled(spine: Spine): readonly (readonly [number, number, number])[] {
  const flat = flattenSpine(spine, 0.01);
  const points: [number, number, number][] = [];
  for (let i = 0; i + STRIDE < flat.length; i += STRIDE) {
    const long = Math.hypot(flat[i + 3] - flat[i], flat[i + 4] - flat[i + 1]);
    const count = Math.max(1, Math.round(long));
    for (let k = 0; k < count; k++) {
      const t = (k + 0.5) / count;
      points.push(
        [0, 1, 2].map((axis) => flat[i + axis] + t * (flat[i + 3 + axis] - flat[i + axis])) as [number, number, number],
      );
    }
  }
  return points;
}

/** What was traced, painted: darkness px by px, by librsvg (`sharp`). */
export async function redrawn(
  { lines, blacks }: { readonly lines: readonly TracedLine[]; readonly blacks: readonly TracedBlack[] },
  { width, height }: { readonly width: number; readonly height: number },
): Promise<Uint8Array> {
  const nib = { name: 'Plain', size: 1, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };
  const path = (rings: readonly ArrayLike<number>[]) =>
    rings
      .map(
        (ring) =>
          `M${Array.from({ length: ring.length / 2 }, (_, k) => `${ring[2 * k].toFixed(3)} ${ring[2 * k + 1].toFixed(3)}`).join('L')}Z`,
      )
      .join('');
  const words = lines.map(({ spine }) => path(outlineOf({ spine, nib, ends: ['round', 'round'] }, 0.05).rings));
  for (const { rings } of blacks)
    words.push(
      path(
        rings.map((spine) => {
          const flat = flattenSpine(spine, 0.05);
          return Float64Array.from({ length: (2 * flat.length) / STRIDE }, (_, k) => flat[STRIDE * (k >> 1) + (k & 1)]);
        }),
      ),
    );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="#fff"/>${words.map((d) => `<path d="${d}"/>`).join('')}</svg>`;
  const { data } = await sharp(Buffer.from(svg), { unlimited: true })
    .flatten({ background: '#fff' })
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return Uint8Array.from(data, (grey) => 255 - grey);
}

/** What two pictures have in common, over what either has: ink by half. */
export function overlap(one: Uint8Array, two: Uint8Array): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < one.length; i++) {
    const [p, q] = [one[i] >= 128, two[i] >= 128];
    if (p && q) both++;
    if (p || q) either++;
  }
  return either ? both / either : 1;
}
