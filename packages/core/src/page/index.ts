export * from './change';
export * from './entityMap';
export * from './format';
export * from './gate';
export * from './history';
export * from './kinds';
export * from './kinds/colour';
export * from './kinds/layer';
export * from './kinds/paper';
export * from './kinds/picture';
export { HUES, type Corners, type Hue, type LightSettings, type Scan } from './kinds/scan';
export * from './kinds/sheet';
export * from './kinds/silence';
export * from './kinds/stop';
export {
  TAKES,
  TRACE_SETTINGS,
  type Said,
  type TracedPixels,
  type TraceRecord,
  type TraceSettings,
} from './kinds/traced';
export * from './kinds/wash';
export * from './layer';
export * from './layerStyle';
export * from './merge';
export * from './names';
export * from './page';
export * from './paper';
export * from './roughs';
export * from './sheet';
export * from './spreads';
export * from './stack';
export * from './units';
export * from './wash';
