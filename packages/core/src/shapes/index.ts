export * from './drag';
export * from './path';
export * from './spines';
