export { GuideList } from './GuideList';
export { OneGuide } from './OneGuide';
export { keepSighted, layPreset } from './frameDeeds';
export { guideSlot } from './guideTool';
export { selectedLines } from './mirroring';
export { proportionsOf } from './proportions';
export { sightedFrom } from './sighting';
export { guidesStage } from './stage';
export { useFrameInHand } from './useFrameInHand';
