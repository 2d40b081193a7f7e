import sharp from 'sharp';
import type { Coverage } from '../../src/regions';

/** Rings of x, y pairs, filled by the non-zero rule each path on its own, as coverage (librsvg, by sharp). */
export async function coverageOf(
  paths: readonly (readonly Float64Array[])[],
  width: number,
  height: number,
  scale = 1,
): Promise<Coverage> {
  const d = (rings: readonly Float64Array[]) =>
    rings.map((ring) => `M${Array.from(ring, (v) => v.toFixed(3)).join(' ')}Z`).join('');
  const [across, down] = [Math.round(width * scale), Math.round(height * scale)];
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${across}" height="${down}" viewBox="0 0 ${width} ${height}">${paths
    .map((rings) => `<path d="${d(rings)}"/>`)
    .join('')}</svg>`;
  const { data } = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const ink = new Uint8Array(across * down);
  for (let i = 0; i < ink.length; i++) ink[i] = data[4 * i + 3];
  return { width: across, height: down, ink, scale, x: 0, y: 0 };
}
