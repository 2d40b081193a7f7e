import { boxOfPoints } from '@true-nib/core/math';
import type { Quad } from '@true-nib/core/select';
import { chooseFile, say, sayError } from '../../look';
import { bringIn } from '../../stack';
import type { Board } from '../../board';
import { setDepth, type HeldPicture } from '../../guiding';

/** Asks for a picture that the next drag lays on the plane. */
export async function choosePlanePicture(): Promise<void> {
  const file = await chooseFile('image/png,image/jpeg,image/webp');
  if (!file) return;
  try {
    const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
    setDepth({ picture: { file, ratio: bitmap.height / bitmap.width } });
    bitmap.close();
  } catch {
    say(`${file.name} cannot be read as a picture. It is damaged, or not what its name says.`);
  }
}

/** Lays a picture on the page as it looks on a plane: a rough of its own. */
export async function layPicture({ session, picture }: Board, { file }: HeldPicture, corners: Quad): Promise<void> {
  try {
    const png = await picture.laidPicture(file, corners);
    const { minX, minY, maxX, maxY } = boxOfPoints(corners);
    const placement = {
      x: (Math.floor(minX) + Math.ceil(maxX)) / 2,
      y: (Math.floor(minY) + Math.ceil(maxY)) / 2,
      scale: 1,
      angle: 0,
    };
    await bringIn(
      session,
      new File([png], `${file.name.replace(/\.\w+$/, '')} on the plane.png`, { type: 'image/png' }),
      placement,
    );
    say(`${file.name} lies on the plane, as a rough of its own.`);
  } catch (error) {
    sayError(error);
  }
}
