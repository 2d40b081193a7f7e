/** Millimetres in an inch: exact, by definition since 1959. */
export const MM_PER_INCH = 25.4;

/** Page px of a length in mm at `ppi` px an inch; not rounded. */
export const mmToPx = (mm: number, ppi: number): number => (mm / MM_PER_INCH) * ppi;

/** The length in mm of page px at `ppi` px an inch. */
export const pxToMm = (px: number, ppi: number): number => (px / ppi) * MM_PER_INCH;

/** Points in an inch, as type is measured. */
export const PT_PER_INCH = 72;

/** Page px of a length in points at `ppi` px an inch; not rounded. */
export const ptToPx = (pt: number, ppi: number): number => (pt / PT_PER_INCH) * ppi;

/** The length in points of page px at `ppi` px an inch. */
export const pxToPt = (px: number, ppi: number): number => (px / ppi) * PT_PER_INCH;
