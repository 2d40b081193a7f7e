export { LETTERING } from './tools';
