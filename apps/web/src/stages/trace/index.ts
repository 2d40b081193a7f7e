export { roughOf } from './roughOf';
export { TRACE } from './tools';
