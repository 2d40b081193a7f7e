import sharp from 'sharp';

/** How dark a square of page px is painted on average, 0..1, by librsvg (`sharp`): rings filled by the non-zero rule, each list a path. */
export async function darknessOf(
  paths: readonly (readonly Float64Array[])[],
  { x, y, side }: { readonly x: number; readonly y: number; readonly side: number },
): Promise<number> {
  const words = paths.map((rings) => {
    const data = rings.map((ring) => {
      const places = Array.from({ length: ring.length / 2 }, (_, k) => `${ring[2 * k]} ${ring[2 * k + 1]}`);
      return `M${places.join('L')}Z`;
    });
    return `<path d="${data.join('')}"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}" viewBox="${x} ${y} ${side} ${side}"><rect x="${x}" y="${y}" width="${side}" height="${side}" fill="#fff"/>${words.join('')}</svg>`;
  const { channels } = await sharp(Buffer.from(svg)).removeAlpha().greyscale().stats();
  return 1 - channels[0].mean / 255;
}
