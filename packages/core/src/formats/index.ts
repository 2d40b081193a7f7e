export * from './png';
export * from './svg';
export * from './svgPicture';
export * from './svgDrawn';
