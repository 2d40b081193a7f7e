export { TEXTURE } from './tools';
