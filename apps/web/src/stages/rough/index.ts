export { ROUGH } from './stage';
