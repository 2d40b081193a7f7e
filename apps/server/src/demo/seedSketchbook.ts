import { sha256Of, keepBlob } from '../keeping/blobs';
import type { Examiner } from '../keeping/examiner';
import type { Store } from '../keeping/store';
import { change, keepPage } from './keptPage';
import { photographed, SKETCHBOOK_SIZE, sketchbookPhoto, tracedSheet } from './sketchbook';

/** A page of the sketchbook, photographed: once as it was taken, to try on, and once flat and traced. */
export async function seedSketchbook(store: Store, examiner: Examiner): Promise<void> {
  const photo = await sketchbookPhoto();
  const sha256 = sha256Of(photo);
  await keepBlob(store, { sha256, bytes: photo, type: 'image/jpeg' }, { examiner });
  const taken = { id: 'demo-photo', name: 'Sketchbook, photographed', size: SKETCHBOOK_SIZE };
  const address = `data:image/jpeg;base64,${photo.toString('base64')}`;
  await keepPage(store, taken, photographed(taken.id, sha256, change), { pictureAddress: () => address });
  const traced = { id: 'demo-traced', name: 'Sketchbook, traced', size: SKETCHBOOK_SIZE };
  await keepPage(store, traced, await tracedSheet(traced.id, sha256, photo, change));
}
