export * from './edit';
export * from './fit';
export * from './flatten';
export * from './length';
export * from './nearest';
export * from './reweigh';
export * from './spine';
export * from './split';
