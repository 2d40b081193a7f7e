import type { LayerEntity } from './kinds/layer';
import type { PictureEntity } from './kinds/picture';
import { byOrder, ofKind, type Page } from './page';
import { stackOf, type StackNode } from './stack';

/** A rough layer that is seen. */
export interface SeenRough {
  readonly layer: LayerEntity;
  /** What lies on it, lowest first. */
  readonly pictures: readonly PictureEntity[];
  /** How much of it shows, 0..1: its own fade, and those of the groups around it. */
  readonly opacity: number;
}

/** The roughs of a page, lowest first, by where they are laid: on the paper, or as transparencies over all inks. */
export interface SeenRoughs {
  readonly under: readonly SeenRough[];
  readonly over: readonly SeenRough[];
}

const isSeen = (node: StackNode): boolean => !node.isHidden;

/**
 * The roughs that are seen. Those below every Ink and Wash layer lie on the paper; one that has any of these beneath it lies
 * over all inks and multiplies them, as tracing paper would, wherever in the stack it stands. Board, thumbnails and files go
 * by this alone.
 */
export function roughsOf(page: Page, isShown: (node: StackNode) => boolean = isSeen): SeenRoughs {
  const pictures = ofKind(page, 'picture').sort(byOrder);
  const [under, over]: [SeenRough[], SeenRough[]] = [[], []];
  let target = under;
  const collect = (nodes: readonly StackNode[], fade: number): void => {
    for (const node of nodes) {
      const { layer, children } = node;
      const opacity = fade * layer.opacity;
      if (layer.medium === 'ink' || layer.medium === 'wash') target = over;
      else if (layer.medium === 'group') collect(children, opacity);
      else if (isShown(node)) {
        const own = pictures.filter(({ layerId }) => layerId === layer.id);
        if (own.length > 0) target.push({ layer, pictures: own, opacity });
      }
    }
  };
  collect(stackOf(page), 1);
  return { under, over };
}
