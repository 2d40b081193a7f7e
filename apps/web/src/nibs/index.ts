export { CalmFields, CalmSetting } from './CalmSettings';
export { ColourSetting } from './ColourSetting';
export { CalmFold, NibFolds } from './NibFolds';
export { NibInHand } from './NibInHand';
export { SizeSetting } from './SizeSettings';
export { nibFor, nibInHand, rubSizeFor, toggleCalm, useLastHand, useRack } from './rackStore';
export { useKeptRack } from './rackSync';
export { resizeNib, resizeRub } from './takeNib';
export { useNib, useRackNib } from './useNib';
