export const INK_BLACK = '#14161a';
export const PAPER_WHITE = '#ffffff';
