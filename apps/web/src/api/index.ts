export { KEYS } from './keys';
export { ApiProblem, isRefusal, Offline, request, requestJson } from './request';
export {
  createFolio,
  createPage,
  duplicate,
  fetchFolio,
  fetchFolios,
  type FolioCard,
  type PageCard,
  remove,
  rename,
  restore,
  type Shelved,
  thumbnailAddress,
} from './shelf';
