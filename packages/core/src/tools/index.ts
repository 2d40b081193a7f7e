export * from './draw';
export * from './erase';
export * from './place';
export * from './rough';
