export * from './colours';
export * from './erase';
export * from './leftOf';
export * from './place';
export * from './rough';
export { rubbedPanels } from './rubPanels';
export type { Swept } from './swept';
