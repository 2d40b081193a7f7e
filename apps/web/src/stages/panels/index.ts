export { PANELS } from './tools';
