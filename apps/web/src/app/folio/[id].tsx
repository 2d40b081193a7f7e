export { Broken as ErrorBoundary } from '../../look/Broken';
export { FolioScreen as default } from '../../shelf/FolioScreen';
