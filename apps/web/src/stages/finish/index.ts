export { finishStage } from './stage';
