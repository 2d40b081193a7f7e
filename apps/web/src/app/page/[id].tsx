export { BoardScreen as default } from '../../board/BoardScreen';
export { Broken as ErrorBoundary } from '../../look/Broken';
