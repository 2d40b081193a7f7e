export * from './box';
export * from './matrix';
export * from './monotone';
export * from './point';
export * from './polygon';
export * from './projective';
export * from './random';
export * from './space';
