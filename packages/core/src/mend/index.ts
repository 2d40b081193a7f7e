export * from './crossings';
export * from './cut';
export * from './meetings';
export * from './rub';
export * from './snip';
export * from './touch';
