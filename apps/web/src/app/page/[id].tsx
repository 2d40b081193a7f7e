export { BoardScreen as default } from '../../open';
export { Broken as ErrorBoundary } from '../../look';
