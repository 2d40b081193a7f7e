import { PLAIN_STYLE, type InkStyle } from '../nib';
import type { LayerEntity } from './kinds/layer';

const standingIn = new WeakMap<LayerEntity, InkStyle>();

/** How a layer's lines are shown: by its style, and in its stand-in colour where that is asked for. */
export function shownStyle(layer: LayerEntity, withStandIns: boolean): InkStyle | undefined {
  if (!withStandIns || layer.standIn === undefined) return layer.style;
  let style = standingIn.get(layer);
  if (!style) standingIn.set(layer, (style = { ...(layer.style ?? PLAIN_STYLE), color: layer.standIn }));
  return style;
}
