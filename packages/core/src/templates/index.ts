export * from './templates';
