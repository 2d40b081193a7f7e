export { roughStage } from './stage';
