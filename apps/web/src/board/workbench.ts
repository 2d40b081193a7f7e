import type { LucideIcon } from 'lucide-react-native';
import type { ComponentType } from 'react';
import type { Page } from '@true-nib/core/page';
import type { Board, PageKeep, PageSlot, Press } from './board';
import type { Command, HoldCommand } from './command';
import type { Gesture } from './gesture';

/** Settings of a tool or a stage: on a phone they are pulled up, on a wide screen they stand beside the page. */
export interface SettingsProps {
  /** CSS px that pictures in it may be wide. */
  readonly width: number;
  readonly isWide: boolean;
}

/** What a hand does on the board while it is taken up. */
export interface Tool {
  readonly id: string;
  readonly label: string;
  readonly icon: LucideIcon;
  /** What it will do next, for the status line. */
  readonly hint: string | ComponentType;
  /** How it is found by name and key. Taking it up is what that does, unless `run` says more. */
  readonly command: Pick<Command, 'room' | 'key'> & { readonly label?: string; readonly run?: Command['run'] };
  /** The tool that the hold key borrows while it is in hand, until the artist chooses another. */
  readonly borrows: string;
  /** Begins what a pointer does that comes down; nothing lets the page be moved instead. */
  readonly begin: (board: Board, press: Press) => Gesture | undefined;
  /** The settings that matter now, in one line on a phone. */
  readonly Line: ComponentType;
  readonly Settings: ComponentType<SettingsProps>;
  readonly commands?: readonly Command[];
  /** The radius, page px, of the ring that shows its size under a pen that hovers. */
  readonly ring?: (page: Page) => number;
  /** The ring stays while it draws. */
  readonly ringStays?: true;
  /** Makes it larger or smaller by a factor; without this the nib in hand. */
  readonly resize?: (factor: number) => void;
  /** It draws with the nib in hand: taking another nib goes on with it. */
  readonly takesNib?: true;
  /** What is selected is seen, and can be moved, while it is in hand. */
  readonly showsSelection?: true;
  /** The page is seen as it will be delivered: without stand-ins, guides and hands. */
  readonly showsPlain?: true;
  /** What the far end of a pen does. */
  readonly isEraserEnd?: true;
}

/** A step of the work: its tools, and what it keeps. */
export interface Stage {
  readonly id: string;
  readonly label: string;
  readonly key?: string;
  /** The first is taken up by whoever comes from a tool that is at home elsewhere; without any the tool in hand stays. */
  readonly tools: readonly Tool[];
  /** The keys to hold that matter here, by the ids of their commands. */
  readonly holds: readonly string[];
  /** What it keeps for an open page. */
  readonly keeps?: readonly PageSlot<PageKeep>[];
  /** Forgets what it kept for the last page, when one is opened. */
  readonly forget?: () => void;
  readonly commands?: readonly Command[];
  readonly holdCommands?: readonly HoldCommand[];
  /** One looks in at it and comes back to the tool that was in hand. */
  readonly isAside?: true;
  /** In place of a chip for each tool. */
  readonly Chips?: ComponentType;
  /** The same for a phone alone; a wide bench has it among the settings. */
  readonly PhoneChips?: ComponentType;
  /** In place of what the tool in hand shows and does, where it does not hang on that. */
  readonly hint?: string;
  readonly Line?: ComponentType;
  readonly Settings?: ComponentType<SettingsProps>;
  readonly begin?: (board: Board, press: Press) => Gesture | undefined;
  /** What goes on beside the drawing while a page is open, and shows nothing itself. */
  readonly Habit?: ComponentType;
}

/** A part of a stage that has a room of its own: its tools, and what it keeps. */
export type Wing = Pick<Stage, 'tools' | 'keeps' | 'forget' | 'commands' | 'holdCommands'>;

/**
 * All stages and commands there are. Thread, benches, keys, hints and the hand read them here and name none themselves. What
 * there is, is laid out once, when the app is put together.
 */
class Workbench {
  stages: readonly Stage[] = [];
  commands: readonly Command[] = [];
  holdCommands: readonly HoldCommand[] = [];

  layOut(stages: readonly Stage[], commands: readonly Command[], holdCommands: readonly HoldCommand[]): void {
    Object.assign(this, { stages, commands, holdCommands });
  }

  get tools(): readonly Tool[] {
    return this.stages.flatMap(({ tools }) => tools);
  }

  get allCommands(): readonly (Command | HoldCommand)[] {
    return [...this.commands, ...this.holdCommands];
  }

  tool(id: string): Tool | undefined {
    return this.tools.find((tool) => tool.id === id);
  }

  stage(id: string): Stage | undefined {
    return this.stages.find((stage) => stage.id === id);
  }

  /** Whether the page is seen as it will be delivered. */
  isPlain({ stage, tool }: { readonly stage: string; readonly tool: string }): boolean {
    const inHand = this.tool(tool);
    return inHand?.showsPlain === true && this.homeOf(tool)?.id === stage;
  }

  /** The stage in which a tool is at home. */
  homeOf(toolId: string): Stage | undefined {
    return this.stages.find(({ tools }) => tools.some(({ id }) => id === toolId));
  }

  /** Does what a command does; nothing where there is none of that name. */
  run(commandId: string, board: Board): void {
    this.commands.find(({ id }) => id === commandId)?.run(board);
  }
}

export const workbench = new Workbench();
