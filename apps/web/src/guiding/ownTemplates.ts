import { isKind } from '@true-nib/core/page';
import { fitSpine, type Spine } from '@true-nib/core/curve';
import { svgToDrawn } from '@true-nib/core/formats';
import { PageError } from '@true-nib/core/gate';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { ownTemplate } from '@true-nib/core/templates';
import { contours } from 'd3-contour';
import { say, chooseFile } from '../look';
import { newId } from '../session';
import type { Board } from '../board';
import { nibFor } from '../nibs';
import { layNext } from './layNext';
import { setGuides } from './guideStore';
import { addTemplate } from './templateStore';

/** Px a side that a picture is traced at. */
const TRACED = 700;
/** Px that a traced outline may stray from its picture. */
const TOLERANCE = 0.7;
/** The share of the picture's area under which an outline is a speck. */
const SPECK = 0.0004;
const MOST_RINGS = 64;

/** Adds a template and takes it in hand; what cannot be one is said. */
function take(name: string, courses: readonly Spine[]): void {
  try {
    const template = ownTemplate(newId(), name, courses);
    addTemplate(template);
    setGuides({ templateId: template.id });
    layNext('template');
    say(`${template.name} is among your templates. Touch the page to lay it down.`);
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    say(error.message);
  }
}

export function templateFromLines(strokes: readonly StrokeEntity[]): void {
  if (strokes.length === 0) return say('Select some lines first.');
  take(
    'Own outline',
    strokes.map(({ spine }) => spine),
  );
}

/** Asks for an SVG or a picture on disk and makes a template of its outlines. */
export async function templateFromFile(board: Board): Promise<void> {
  const file = await chooseFile('image/*,.svg');
  if (!file) return;
  const name = file.name.replace(/\.[^.]*$/, '');
  try {
    if (file.type === 'image/svg+xml' || /\.svg$/i.test(file.name)) {
      const lines = svgToDrawn(await file.text(), nibFor(board.session.page)).filter((one) => isKind(one, 'stroke'));
      return take(
        name,
        lines.map(({ spine }) => spine),
      );
    }
    take(name, await tracedOutlines(file));
  } catch (error) {
    say(error instanceof PageError ? error.message : 'This file cannot be read as a picture.');
  }
}

/** The outlines of what is darker than the middle between paper and ink in a picture. Throws for what no browser can read. */
async function tracedOutlines(file: Blob): Promise<Spine[]> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, TRACED / Math.max(picture.width, picture.height));
  const [width, height] = [
    Math.max(2, Math.round(picture.width * scale)),
    Math.max(2, Math.round(picture.height * scale)),
  ];
  const context = new OffscreenCanvas(width, height).getContext('2d');
  if (!context) throw new PageError('This browser cannot read pictures.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
  context.drawImage(picture, 0, 0, width, height);
  picture.close();
  const { data } = context.getImageData(0, 0, width, height);
  // Luma as ITU-R BT.601 has it; darkness, so that what is inked lies inside.
  const darkness = Array.from(
    { length: width * height },
    (_, k) => 255 - (0.299 * data[4 * k] + 0.587 * data[4 * k + 1] + 0.114 * data[4 * k + 2]),
  );
  const [shape] = contours().size([width, height]).thresholds([128])(darkness);
  const rings = shape.coordinates
    .flat()
    .map((ring) => ({ ring, area: Math.abs(areaOf(ring)) }))
    .filter(({ area }) => area > SPECK * width * height)
    .sort((a, b) => b.area - a.area)
    .slice(0, MOST_RINGS);
  if (rings.length === 0) throw new PageError('There is no outline in this picture: nothing in it is dark on light.');
  return rings.map(({ ring }) => ({
    ...fitSpine(
      ring.map(([x, y]) => ({ x, y, width: 1 })),
      TOLERANCE,
    ),
    closed: true,
  }));
}

const areaOf = (ring: readonly (readonly number[])[]): number =>
  ring.reduce((sum, [x, y], k) => {
    const [u, v] = ring[(k + 1) % ring.length];
    return sum + (x * v - u * y) / 2;
  }, 0);
