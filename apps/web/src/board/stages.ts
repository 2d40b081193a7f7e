import type { Stage } from './desk';

/** The stages that have tools so far, in the order of the work. */
export const STAGES: readonly { readonly id: Stage; readonly label: string }[] = [
  { id: 'rough', label: 'Rough' },
  { id: 'guides', label: 'Guides' },
  { id: 'ink', label: 'Ink' },
  { id: 'mend', label: 'Mend' },
  { id: 'finish', label: 'Finish' },
];
