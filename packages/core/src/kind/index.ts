export * from './kind';
export * from './laid';
