export * from './area';
export * from './frame';
export * from './homography';
export * from './likeness';
export * from './mask';
export * from './specks';
export * from './warp';
