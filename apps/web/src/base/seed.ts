/** A seed for what is to look as if by chance, as the grain of a broken edge: it is kept with what comes of it. */
export const seedNow = (): number => Math.floor(Math.random() * 0xffffffff);
