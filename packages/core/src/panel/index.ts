export { asPanelRing, MOST_PANELS, panelKind, reshaped, withBorder, withGutter } from './panelKind';
export * from './border';
export * from './types';
