export { SET } from './tools';
