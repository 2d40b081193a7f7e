export { BoardScreen as default } from '../../open/BoardScreen';
export { Broken as ErrorBoundary } from '../../look/Broken';
