export * from './codec';
export * from './parts';
