import type { Edit } from '@true-nib/core/page';

export const isGuideEdit = ({ before, after }: Edit): boolean => before?.kind === 'guide' || after?.kind === 'guide';
