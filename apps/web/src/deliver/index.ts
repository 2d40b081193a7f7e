export { bringInLayers } from './bringInLayers';
export * from './choice';
export { deliver, useDeliveries } from './deliveries';
export { DeliveryLine } from './DeliveryLine';
export type { PageToDeliver } from './files';
export { onLayers, savedPage } from './pages';
export { useDeliverChoice } from './presetStore';
