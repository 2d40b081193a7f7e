export { bringInLayers } from './bringInLayers';
export * from './choice';
export { closePreview, deliver, handOver, preview, type SeenFile, useDeliveries, usePreview } from './deliveries';
export { DeliveryLine } from './DeliveryLine';
export type { Delivered, PageToDeliver } from './files';
export { smallPictures } from './looking';
export type { SmallPicture } from './deliver.worker';
export { onLayers, savedPage } from './pages';
export { useDeliverChoice } from './presetStore';
