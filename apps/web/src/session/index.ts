export { author, newId } from './ids';
export { indexedDbOutbox } from './outbox';
export { isHeldUp, PageSession, type SessionState } from './pageSession';
export { sendLeft } from './sendLeft';
export { httpTransport } from './transport';
