export * from './own';
export * from './templates';
