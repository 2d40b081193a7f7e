export { bringInLayers } from './bringInLayers';
export * from './choice';
export { deliver, useDeliveries } from './deliveries';
export { DeliveryLine } from './DeliveryLine';
export type { PageToDeliver } from './files';
export { smallPictures } from './looking';
export type { SmallPicture } from './deliver.worker';
export { onLayers, savedPage } from './pages';
export { useDeliverChoice } from './presetStore';
