import type { Page as Tab } from '@playwright/test';
import { balloonsOn, letteringOn, panelsOn } from '@true-nib/core/comic';
import { onServer } from './board';
import type { Desk } from './desk';

// What stories of comic pages ask of the interface and of the server.

/** Goes to a tool of a stage; on a phone by the chip that turns to its row. */
export async function takeTool(tab: Tab, stage: string, tool: string, row?: string): Promise<void> {
  await tab.getByRole('tab', { name: stage }).click();
  if (row) await tab.getByRole('button', { name: row, exact: true }).first().click();
  await tab.getByRole('button', { name: tool, exact: true }).last().click();
}

export const panels = async (desk: Desk, pageId: string) => panelsOn(await onServer(desk, pageId));
export const balloons = async (desk: Desk, pageId: string) => balloonsOn(await onServer(desk, pageId));
export const letters = async (desk: Desk, pageId: string) => letteringOn(await onServer(desk, pageId));

/** What a text says. */
export const wordsOf = ({ runs }: { readonly runs: readonly { readonly text: string }[] }): string =>
  runs.map(({ text }) => text).join('');
