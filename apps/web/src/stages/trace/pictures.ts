/** Small drawings of what is traced, and of how a place can stand: lines in a box of 44 by 30. */
export const TAKES_PICTURES = {
  lines: 'M6 24 C14 6 24 4 38 8 M10 8 C18 14 26 20 36 24',
  outlines: 'M6 22 C12 6 24 2 38 8 C40 9 40 11 38 11 C26 7 16 9 10 24 C9 26 5 25 6 22 Z',
  both: 'M4 24 C8 10 14 6 20 8 M24 22 C28 8 34 4 40 8 C42 9 41 11 40 11 C35 9 31 12 28 23 C27 25 23 24 24 22 Z',
} as const;

export const WHERE_PICTURES = {
  page: 'M12 3 H32 V27 H12 Z M16 10 H28 M16 15 H28 M16 20 H25',
  loop: 'M22 5 C32 4 39 10 37 17 C35 25 22 27 13 24 C5 21 5 12 12 8 C15 6 18 5 22 5',
  panel: 'M6 4 H38 V26 H6 Z M6 14 H38 M24 14 V26',
} as const;

export const TOUCH_PICTURES = {
  ways: 'M8 6 L36 24 M8 24 L36 6',
  split: 'M6 15 H18 M26 15 H38 M22 5 V25',
} as const;
