export { useDeliverChoice } from './deliverChoice';
export { finishStage } from './stage';
