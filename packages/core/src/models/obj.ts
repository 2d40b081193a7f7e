import { PageError } from '../gate';
import { checkedModel, type Model } from '../set';

/** Corners and faces that one file may have. */
const MOST = 4_000_000;

/**
 * A model from an OBJ file: its corners (`v`) and faces (`f`, of any number of corners, from 1 or backwards from the last); all
 * else is left out. y is up in such files. Throws a PageError that names the line.
 */
export function importObj(text: string, most = MOST): Model {
  const corners: number[] = [];
  const triangles: number[] = [];
  text.split('\n').forEach((line, k) => {
    const words = line.trim().split(/\s+/);
    if (words[0] === 'v') {
      const [x, y, z] = words.slice(1, 4).map(Number);
      if (![x, y, z].every(Number.isFinite))
        throw new PageError(`Line ${k + 1} of this file has no place for its corner.`);
      corners.push(x, -z, y);
    } else if (words[0] === 'f') {
      const face = words.slice(1).map((word) => cornerOf(word, corners.length / 3, k + 1));
      if (face.length < 3) throw new PageError(`Line ${k + 1} of this file has a face of fewer than three corners.`);
      for (let at = 1; at + 1 < face.length; at++) triangles.push(face[0], face[at], face[at + 1]);
      if (triangles.length / 3 > most)
        throw new PageError(`This model has more than ${most.toLocaleString('en-GB')} triangles.`);
    }
  });
  return checkedObj({ positions: Float32Array.from(corners), triangles: Uint32Array.from(triangles) }, most);
}

/** A model over the limit for drawing is answered as it is: it can be simplified. */
const checkedObj = (model: Model, most: number): Model =>
  model.triangles.length / 3 > 0 && model.triangles.length / 3 <= most ? model : checkedModel(model);

function cornerOf(word: string, count: number, line: number): number {
  const number = Number(word.split('/')[0]);
  const corner = number < 0 ? count + number : number - 1;
  if (!Number.isInteger(number) || !(corner >= 0 && corner < count))
    throw new PageError(`Line ${line} of this file names a corner that is not there.`);
  return corner;
}
