export { ShelfScreen as default } from '../shelf/ShelfScreen';
