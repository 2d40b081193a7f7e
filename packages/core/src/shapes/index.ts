export * from './drag';
export * from './inked';
export * from './path';
export * from './spines';
