import type { Edit } from '@true-nib/core/page';

export const isGuideEdit = ({ before, after }: Edit): boolean => before?.kind === 'guide' || after?.kind === 'guide';

/** What takes edits back. */
export const inverse = (edits: readonly Edit[]): Edit[] =>
  edits.map(({ before, after }) => ({ before: after, after: before })).reverse();
