export * from './blacks';
export * from './deeds';
export * from './finding';
export * from './leaks';
export * from './pressCheck';
export * from './weights';
