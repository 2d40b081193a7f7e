export { BLACKS } from './stage';
