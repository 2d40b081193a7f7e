export * from './check';
export * from './colours';
export * from './inkStyle';
export * from './types';
export * from './widths';
export * from './inkColour';
