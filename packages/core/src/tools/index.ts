export * from './colours';
export * from './erase';
export * from './place';
export * from './rough';
