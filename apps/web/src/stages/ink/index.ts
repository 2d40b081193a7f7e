export { INK } from './stage';
