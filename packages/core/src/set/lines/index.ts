export * from './candidate';
export * from './candidates';
export * from './contacts';
export * from './visible';
export * from './pull';
