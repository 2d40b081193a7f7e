import type { LayerEntity, Medium } from './kinds/layer';

/** Colours to mark layers with: told apart on white paper and beside black ink, also by those who see few hues. */
export const LAYER_MARKS: readonly { readonly name: string; readonly color: string }[] = [
  { name: 'Clay', color: '#a8442f' },
  { name: 'Moss', color: '#2f7a4b' },
  { name: 'Sea', color: '#2a6f97' },
  { name: 'Plum', color: '#7a4e9c' },
  { name: 'Straw', color: '#8a6500' },
  { name: 'Slate', color: '#4f6272' },
];

/** A new layer that is seen, unlocked and whole. */
export const newLayer = (
  layer: Pick<LayerEntity, 'id' | 'medium' | 'name' | 'order'> & Partial<LayerEntity>,
): LayerEntity => ({
  kind: 'layer',
  hidden: false,
  locked: false,
  opacity: 1,
  holdsShape: false,
  ...layer,
});

const MEDIUM_WORDS: Readonly<Record<Medium, string>> = { ink: 'Ink', wash: 'Wash', rough: 'Rough', group: 'Group' };

/** The word that the interface uses for a kind of layer. */
export const mediumInWords = (medium: Medium): string => MEDIUM_WORDS[medium];
