import { nodesOf, stackOf, type Edit, type Entity } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { useEffect, useRef } from 'react';
import type { BoardPicture } from '../render';
import { useBoard } from '../board';

const SIDE = 36;
const SHARPNESS = 2;
const REST_MS = 700;

/** What lies on a layer, small; painted anew when the hand rests after a change to it. */
export function LayerThumb({ layerId }: { readonly layerId: EntityId }) {
  const { session, picture } = useBoard();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const paint = () => void paintThumb(picture, layerId, canvas.current);
    timer = setTimeout(paint, 50);
    const stop = session.onEdits((_page, edits) => {
      if (!touches(edits, layerId)) return;
      clearTimeout(timer);
      timer = setTimeout(paint, REST_MS);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [session, picture, layerId]);
  return (
    <canvas
      ref={canvas}
      width={SIDE * SHARPNESS}
      height={SIDE * SHARPNESS}
      aria-hidden
      style={{ width: SIDE, height: SIDE, borderRadius: 6, background: '#ffffff', flexShrink: 0 }}
    />
  );
}

const touchedBy = new WeakMap<readonly Edit[], ReadonlySet<EntityId>>();

/** Whether edits change a layer or what lies on it. All layers ask of the same edits: these are gone through once. */
function touches(edits: readonly Edit[], layerId: EntityId): boolean {
  let touched = touchedBy.get(edits);
  if (!touched) {
    const ids = new Set<EntityId>();
    const note = (entity: Entity | null) => {
      if (entity?.kind === 'layer') ids.add(entity.id);
      else if (entity && 'layerId' in entity) ids.add(entity.layerId);
    };
    for (const { before, after } of edits) {
      note(before);
      note(after);
    }
    touchedBy.set(edits, (touched = ids));
  }
  return touched.has(layerId);
}

async function paintThumb(picture: BoardPicture, layerId: EntityId, canvas: HTMLCanvasElement | null): Promise<void> {
  const context = canvas?.getContext('2d');
  if (!canvas || !context || !nodesOf(stackOf(picture.shownPage)).some(({ layer }) => layer.id === layerId)) return;
  const bitmap = await picture.layerPicture(layerId, canvas.width, canvas.height);
  if (!bitmap) return;
  context.clearRect(0, 0, canvas.width, canvas.height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
}
