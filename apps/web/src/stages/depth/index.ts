export { DEPTH } from './tools';
