export type { BoardCanvases } from './boardCanvases';
export { BoardPicture } from './boardPicture';
export { HARD_EDGE } from './liveSurface';
export { type Sketch } from './overlaySurface';
export { colourAt } from './colourAt';
export { applyEdits } from './draft';
export {
  drawFrame,
  drawSighted,
  drawWayMarks,
  pointInWords,
  WAY_LETTERS,
  type WayMark,
  wayMarks,
} from './framePicture';
export type { Ghosts } from './gridSurface';
export {
  drawGuides,
  gridsOf,
  GUIDE_HUES,
  guideColour,
  type GuideTag,
  type ShownGuides,
  TAG_HEIGHT,
  tagsOf,
} from './guidePicture';
export { changesBounds } from './inkDesk';
export { InkIndex } from './inkIndex';
export { clipTo, pathOf, traceRings } from './inkPaint';
export { LETTERS } from './letters';
export { drawKnot, drawSlack, type OverlayColours, STEM, strokeBoth } from './overlay';
export type { PictureOfInks } from './keptPicture';
export type { ShownPiece } from './pieceWork';
export { decodable, type PictureBytes } from './pictures';
export { FRAME_STEM } from './selectionPicture';
export type { RegionSettings, ShownRegion } from './regionWork';
export type { SetPicture } from './set.worker';
export type { ShownSets } from './setSurface';
export { isShownUnder, plainLook } from './stackLook';
export { ringed, ringedPlaces } from './ringed';
export { StartedInks } from './startedInks';
export {
  aligned,
  centredAt,
  fitted,
  fittedToWidth,
  fitZoom,
  flippedAt,
  isFlipped,
  isTall,
  panned,
  pinched,
  smallSize,
  levelled,
  toPage,
  toScreen,
  turnedAt,
  turnOf,
  type View,
  withinReach,
  zoomedAt,
  zoomOf,
} from './view';
export type { ShownTexture, TextureAsked } from './textureWork';
export { pixelsOf } from './scanned';
export { packTile } from './washCode';
export type { WashDeed } from './washDeed';
export type { AreaQuery, ReworkedTile, SelectedArea, TakenPixels } from './washWork';
