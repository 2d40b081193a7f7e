export { FolioScreen } from './FolioScreen';
export { ShelfScreen } from './ShelfScreen';
