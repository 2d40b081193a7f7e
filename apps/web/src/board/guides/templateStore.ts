import { TEMPLATES, type Template } from '@true-nib/core/templates';
import { create } from 'zustand';

/** Templates of one's own, besides those that come with the desk. */
export const useOwnTemplates = create<{ readonly own: readonly Template[] }>()(() => ({ own: [] }));

export const allTemplates = (own: readonly Template[]): readonly Template[] => [...TEMPLATES, ...own];

export const templateById = (id: string): Template | undefined =>
  allTemplates(useOwnTemplates.getState().own).find((template) => template.id === id);
