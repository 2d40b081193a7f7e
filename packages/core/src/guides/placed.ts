import { chain, rotation, translation, type Matrix } from '../math';
import type { TemplatePlace } from '../page';

/** The map from a template's own px to where it lies. */
export const templateMap = ({ x, y, scaleX, scaleY, angle }: TemplatePlace): Matrix =>
  chain([scaleX, 0, 0, scaleY, 0, 0], rotation(angle), translation(x, y));
