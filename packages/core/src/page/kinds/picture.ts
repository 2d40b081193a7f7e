import { checkLaid, type Kind, type LaidBase } from '../../kind';
import { fingerprint, number, oneOf, optional, place, record } from '../../gate';
import type { Point } from '../../math';
import { checkScan, type Scan } from './scan';

/** Where a picture lies: its centre in page px, page px per picture px, and its turn in radians. */
export interface Placement extends Point {
  readonly scale: number;
  readonly angle: number;
}

export type Tint = 'none' | 'blue' | 'grey';

/** What black becomes under a tint; white stays white. */
export const TINT_COLOURS: Readonly<Record<Exclude<Tint, 'none'>, string>> = { blue: '#2d83b4', grey: '#7d7d7d' };

export interface PictureEntity extends LaidBase {
  readonly kind: 'picture';
  /** The SHA-256 of its bytes, in hex. */
  readonly blob: string;
  /** Its size as it is seen, px. */
  readonly width: number;
  readonly height: number;
  /** What is made of it before it is seen. */
  readonly scan?: Scan;
  readonly placement: Placement;
  readonly opacity: number;
  readonly tint: Tint;
}

/** What a picture is: its bytes are a blob. */
export const pictureKind: Kind<PictureEntity> = {
  isMany: false,
  check: (fields) => ({
    kind: 'picture',
    ...checkLaid(fields),
    blob: fingerprint(fields.blob),
    width: number(fields.width, 'width', 1, 40_000),
    height: number(fields.height, 'height', 1, 40_000),
    ...optional(fields, 'scan', checkScan),
    placement: checkPlacement(fields.placement),
    opacity: number(fields.opacity, 'opacity', 0, 1),
    tint: oneOf(fields.tint, 'tint', ['none', 'blue', 'grey']),
  }),
  refs: ({ layerId, blob }) => ({ needs: [layerId], blobs: [{ sha256: blob, as: 'picture' }] }),
  remap: (picture, copyId, renamed) => ({ ...picture, id: copyId, layerId: renamed(picture.layerId) }),
};

function checkPlacement(value: unknown): Placement {
  const fields = record(value, 'A placement');
  return {
    ...place(fields),
    scale: number(fields.scale, 'scale', 1e-4, 1e4),
    angle: number(fields.angle, 'angle', -1e3, 1e3),
  };
}
