export { Broken as ErrorBoundary } from '../look/Broken';
export { ShelfScreen as default } from '../shelf/ShelfScreen';
