export { KEYS } from './keys';
export { ApiProblem, isRefusal, Offline, request, requestJson } from './request';
export {
  fetchLettering,
  letteringFile,
  replaceWords,
  takeBackWords,
  type LetteredPage,
  type ReplacedWords,
} from './lettering';
export {
  changeFolio,
  createFolio,
  createPage,
  duplicate,
  fetchFolio,
  fetchFolios,
  type FolioCard,
  type FolioWithPages,
  type PageCard,
  placePage,
  remove,
  rename,
  restore,
  type Shelved,
  thumbnailAddress,
} from './shelf';
export { packageAddress, takeInFolio } from './packages';
