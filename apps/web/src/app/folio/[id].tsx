export { FolioScreen as default } from '../../shelf/FolioScreen';
