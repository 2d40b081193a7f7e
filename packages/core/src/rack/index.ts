export * from './file';
export * from './merge';
export * from './rack';
export * from './shipped';
