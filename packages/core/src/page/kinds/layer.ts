import { colour, flag, id, number, oneOf, optional, text } from '../../gate';
import type { EntityBase, EntityId, Kind } from '../../kind';
import { checkStyle, type InkStyle } from '../../nib';
import { checkTraced, type TraceRecord } from './traced';

/** `ink` holds strokes, `wash` pixels, `rough` pictures to draw over, `group` other layers. */
export type Medium = 'ink' | 'wash' | 'rough' | 'group';

export interface LayerEntity extends EntityBase {
  readonly kind: 'layer';
  readonly medium: Medium;
  readonly name: string;
  readonly order: string;
  /** The group it lies in; a parent that is not there counts as none. */
  readonly parentId?: EntityId;
  readonly hidden: boolean;
  readonly locked: boolean;
  /** How much of it shows, 0..1. */
  readonly opacity: number;
  /** The colour that marks it in the stack and on the page, `#rrggbb`. */
  readonly mark?: string;
  /** Only what is already there takes new colour. */
  readonly holdsShape: boolean;
  /** A bright colour to work in, `#rrggbb`: never delivered. */
  readonly standIn?: string;
  readonly style?: InkStyle;
  /** What lies on it goes over the borders of panels. */
  readonly free?: boolean;
  /** Its ink was traced, and can still be put right. */
  readonly traced?: TraceRecord;
}

/** Layers that one page may hold: far beyond honest work, and few enough that the stack stays quick. */
export const MOST_LAYERS = 500;

/** What a layer is. Layers kept by earlier versions lack what was not known then. */
export const layerKind: Kind<LayerEntity> = {
  isMany: false,
  most: { count: MOST_LAYERS, inWords: `A page holds at most ${MOST_LAYERS} layers. Merge or delete some first.` },
  check: (fields) => ({
    kind: 'layer',
    id: id(fields.id, 'id'),
    medium: oneOf(fields.medium, 'medium', ['ink', 'wash', 'rough', 'group']),
    name: text(fields.name, 'name'),
    order: id(fields.order, 'order'),
    hidden: flag(fields.hidden, 'hidden'),
    locked: flag(fields.locked, 'locked'),
    opacity: number(fields.opacity ?? 1, 'opacity', 0, 1),
    holdsShape: flag(fields.holdsShape ?? false, 'holdsShape'),
    ...optional(fields, 'parentId', id),
    ...optional(fields, 'mark', colour),
    ...optional(fields, 'standIn', colour),
    ...optional(fields, 'style', checkStyle),
    ...(fields.free === true ? { free: true } : {}),
    ...optional(fields, 'traced', checkTraced),
  }),
  refs: ({ parentId, traced }) => ({
    knows: [
      ...(parentId === undefined ? [] : [parentId]),
      ...(traced ? [traced.from, ...(traced.panelId === undefined ? [] : [traced.panelId])] : []),
    ],
    // Places can be put right as long as the picture is there that was traced.
    ...(traced?.pixels.as === 'picture' && { blobs: [{ sha256: traced.pixels.blob, as: 'picture' as const }] }),
  }),
  // The lines of a copy have names of their own: they are ink like any other.
  remap: ({ traced: _own, ...layer }, copyId, renamed) => ({
    ...layer,
    id: copyId,
    ...(layer.parentId !== undefined && { parentId: renamed(layer.parentId) }),
  }),
};
