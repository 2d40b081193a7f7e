export * from './file';
export * from './lay';
export * from './marks';
export * from './pulled';
export * from './tones';
export * from './turned';
