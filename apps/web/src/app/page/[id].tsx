export { BoardScreen as default } from '../../board/BoardScreen';
