import type { FindingKind } from '@true-nib/core/audit';

interface KindShown {
  readonly title: string;
  /** Lines of 24 by 24. */
  readonly picture: string;
}

/** What findings of a kind are called, and a small drawing of each. */
export const KINDS: Readonly<Record<FindingKind, KindShown>> = {
  resolution: { title: 'Too few px', picture: 'M4 4H12V12H4ZM12 12H20V20H12ZM4 20H12M20 4V12' },
  grey: { title: 'Greys and colours', picture: 'M4 4H20V20H4ZM4 20L20 4M4 14L14 4M10 20L20 10' },
  'stand-in': {
    title: 'Stand-in colours',
    picture: 'M9 4A5 5 0 1 0 9 14A5 5 0 1 0 9 4ZM15 10A5 5 0 1 1 15 20A5 5 0 1 1 15 10',
  },
  faded: { title: 'Faded ink', picture: 'M4 8H20M4 12H7M10 12H13M16 12H19M4 16H5M9 16H10M14 16H15M19 16H20' },
  'thin line': { title: 'Thin lines', picture: 'M3 6L11 10L13 14L21 18M3 5L11 10M13 14L21 19M3 7L11 10M13 14L21 17' },
  speck: { title: 'Specks', picture: 'M12 11.5V12.5M4 4H8M4 4V8M20 4H16M20 4V8M4 20H8M4 20V16M20 20H16M20 20V16' },
  unseen: { title: 'Out of sight', picture: 'M4 4H14V20H4ZM17 8C19 9 18 11 20 12M17 16H20' },
  'loose end': { title: 'Loose ends', picture: 'M19 3V21M3 12H14' },
  leak: { title: 'Leaks', picture: 'M10 4H4V20H20V14M20 8V4H16M12 10C15 8 17 9 20 11' },
  bleed: { title: 'Short of the bleed', picture: 'M3 3H21V21H3ZM6 6H18V18H6ZM12 12H19.5' },
  'small letters': { title: 'Small lettering', picture: 'M3 20L8 6L13 20M5 15H11M16 20L18.5 14L21 20M17 18H20' },
  'letters at the edge': { title: 'Lettering at the edge', picture: 'M20 3V21M8 18L12.5 6L17 18M9.5 14H15.5' },
  'letters overflow': {
    title: 'Out of the balloon',
    picture: 'M12 5C17 5 19 8 19 11C19 15 16 17 12 17L8 21V16C6 15 5 13 5 11C5 8 8 5 12 5ZM2 11H22',
  },
  'font missing': {
    title: 'Missing fonts',
    picture: 'M4 4H20V20H4ZM10 9.5C10 7 14 7 14 9.5C14 11.5 12 11.5 12 13.5M12 16V16.5',
  },
  'fine tone': { title: 'Fine tones', picture: 'M4 5H20M4 7H20M4 9H20M4 11H20M4 13H20M4 15H20M4 17H20M4 19H20' },
  moiré: {
    title: 'Waves in tones',
    picture: 'M4 4L20 8M4 8L20 12M4 12L20 16M4 16L20 20M4 5L20 6M4 9L20 10M4 13L20 14M4 17L20 18',
  },
};

/** Sizes that a page is seen at: lines of 44 by 30. */
export const SIZE_PICTURES = {
  whole: 'M12 3H32V27H12ZM15 7H29M15 12H24M15 17H29M15 22H22',
  large: 'M17 6H27V24H17ZM19 9H25M19 13H23M19 17H25',
  small: 'M19 9H25V21H19ZM20.5 12H23.5M20.5 15H23.5',
  phone: 'M16 2H28V28H16ZM20 25.5H24M19 6H25V21H19Z',
} as const;
