export { Broken as ErrorBoundary } from '../../look';
export { FolioScreen as default } from '../../shelf';
