export { Broken as ErrorBoundary } from '../look';
export { ShelfScreen as default } from '../shelf';
