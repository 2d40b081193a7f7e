export { CutEndChoice } from './MendSettings';
export { useMend } from './mendStore';
export { MEND } from './stage';
