export { bringInLayers } from './bringInLayers';
export * from './choice';
export { deliver, stopDelivery, useDeliveries } from './deliveries';
export { DeliveryLine } from './DeliveryLine';
export type { PageToDeliver } from './files';
export { onLayers, savedPage, type DeliveredPage } from './pages';
export { useDeliverChoice } from './presetStore';
