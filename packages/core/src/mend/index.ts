export * from './rub';
export * from './touch';
