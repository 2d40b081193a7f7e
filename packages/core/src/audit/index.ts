export * from './blacks';
export * from './finding';
export * from './pressCheck';
export * from './weights';
