import { pipeline } from 'node:stream/promises';
import { withDensity } from '@true-nib/core/formats';
import { Router, type Request } from 'express';
import type { Sharp } from 'sharp';
import { checked, ConversionParams, ConversionQuery } from '../dto';
import { Problem } from '../problem';

/** Px of a picture that is converted: twice as many as a page has at its largest. */
const MOST_PX = 400_000_000;
/** The longest side that a WebP can have (RFC 9649). */
const WEBP_SIDE = 16_383;

interface Wanted {
  readonly kind: ConversionParams['kind'];
  readonly ppi: number;
  readonly quality: number;
}

/** Pictures of pages in other formats: a browser writes PNG, and this what it has no writer for. Nothing of it is kept. */
export function conversionRoutes(): Router {
  const routes = Router();
  routes.post('/:kind', async (request, response) => {
    const { kind } = checked(ConversionParams, request.params);
    const { ppi, quality = '90' } = checked(ConversionQuery, request.query);
    const bytes = await converted(request, { kind, ppi: Number(ppi), quality: Number(quality) });
    response.type(`image/${kind}`).send(Buffer.from(bytes));
  });
  return routes;
}

/** How a PNG begins (ISO/IEC 15948, 5.2). */
const PNG = Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]);

/** What comes, as long as it is a PNG: whatever else the library can read is none of its business here. Throws where it is not. */
async function* pngIn(incoming: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let head: Buffer | undefined = Buffer.alloc(0);
  for await (const chunk of incoming) {
    if (!head) {
      yield chunk;
      continue;
    }
    head = Buffer.concat([head, chunk]);
    if (head.length < PNG.length) continue;
    if (!head.subarray(0, PNG.length).equals(PNG)) break;
    yield head;
    head = undefined;
  }
  if (head) throw new Error('This is no PNG.');
}

/** Converts a PNG as it comes, so that it is never whole in memory. Throws a Problem for one that is none, or not whole. */
async function converted(request: Request, wanted: Wanted): Promise<Uint8Array> {
  const { default: sharp } = await import('sharp');
  const reading = sharp({ limitInputPixels: MOST_PX, sequentialRead: true, failOn: 'warning' });
  try {
    // Whoever leaves in the middle ends both.
    const [, bytes] = await Promise.all([pipeline(request, pngIn, reading), written(reading, wanted)]);
    return bytes;
  } catch (error) {
    throw new Problem(
      422,
      'This picture cannot be converted',
      wanted.kind === 'webp' && /too large|dimension/i.test(String(error))
        ? `A WebP has at most ${WEBP_SIDE.toLocaleString('en-GB')} px a side. Deliver it smaller, in slices, or as PNG.`
        : 'It is not a whole PNG. Deliver it again.',
    );
  }
}

async function written(reading: Sharp, { kind, ppi, quality }: Wanted): Promise<Uint8Array> {
  switch (kind) {
    case 'tiff': {
      const perMm = ppi / 25.4;
      return await reading
        .toColourspace('b-w')
        .tiff({ compression: 'ccittfax4', bitdepth: 1, xres: perMm, yres: perMm, resolutionUnit: 'inch' })
        .toBuffer();
    }
    case 'jpeg': {
      const flat = reading.flatten({ background: '#ffffff' });
      return withDensity(await flat.jpeg({ quality, chromaSubsampling: '4:4:4' }).toBuffer(), ppi);
    }
    case 'webp':
      return await reading.withMetadata({ density: ppi }).webp({ quality }).toBuffer();
  }
}
