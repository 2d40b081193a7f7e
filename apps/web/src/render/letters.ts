/** The letters of the interface, for what is written on canvases; others until they have come. */
export const LETTERS = 'AtkinsonHyperlegible_400Regular, system-ui, sans-serif';
