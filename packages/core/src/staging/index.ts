export * from './lay';
export * from './pulled';
export * from './turned';
