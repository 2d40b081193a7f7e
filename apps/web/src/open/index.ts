export { BoardScreen } from './BoardScreen';
