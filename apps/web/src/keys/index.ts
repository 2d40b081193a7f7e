export { FindSheet } from './FindSheet';
export { KeysSheet } from './KeysSheet';
export { keyInWords } from './keyNames';
export { keyIn, useKeySet, withKey } from './keySet';
export { useBoardKeys } from './useBoardKeys';
