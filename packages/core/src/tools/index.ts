export * from './draw';
export * from './erase';
export * from './place';
