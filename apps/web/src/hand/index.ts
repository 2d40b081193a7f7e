export { Cells, ToolChip, ToolChips } from './Chips';
export { BoardHand } from './boardHand';
export { areasOf, panelsOf, beginCutting, dotsOf, type LegCut, linesOf, styledBy } from './cutting';
export { flippedTemplate, outlineStrokes, releaseAll, strokeAllRound } from './guideDeeds';
export { goTo } from './goTo';
export { lastEndSlot } from './lastEnd';
export { layDown, layManyDown, type LineTarget } from './layDown';
export { FINGER, linesNear, linesOn, type MendReach, type Reached, reachedLayers } from './reach';
export { TurningRows } from './TurningRows';
