export { PRESS } from './tools';
