export { useDeliverChoice } from './deliverChoice';
export { FINISH } from './stage';
