/** A whole number with its thousands set apart, as in 12,345. */
export const inThousands = (count: number): string => String(count).replace(/\B(?=(\d{3})+$)/g, ',');
