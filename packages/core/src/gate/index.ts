export * from './errors';
export * from './fields';
export * from './path';
export * from './sameValue';
