export * from './colours';
export * from './erase';
export * from './leftOf';
export * from './place';
export * from './rough';
