export * from './calm';
export * from './pressure';
export * from './samples';
