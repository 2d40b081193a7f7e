import Deliver from 'lucide-react-native/icons/package-check';
import Letters from 'lucide-react-native/icons/message-circle';
import type { Stage, Tool, Wing } from '../../board';
import { ToolChip, TurningRows } from '../../hand';
import { forgetPageDelivery } from './deliverStore';
import { FinishAll, FinishChips, FinishLine } from './FinishBench';
import { slicingSlot } from './sliceHand';

/** Looks at the page as it will be delivered. */
const deliver: Tool = {
  id: 'deliver',
  label: 'Look',
  icon: Deliver,
  hint: 'The page, ready to deliver',
  command: { room: 'Desk', label: 'Look at the page as it is delivered' },
  borrows: 'nib',
  begin: (board, press) => board.of(slicingSlot).begin(press),
  Line: FinishLine,
  Settings: FinishAll,
  showsPlain: true,
};

/** The page is lettered, by a wing, and delivered. */
export const finishStage = (lettering: Wing) =>
  ({
    id: 'finish',
    label: 'Finish',
    key: 'Digit3',
    tools: [deliver, ...lettering.tools],
    holds: ['move', 'scrub-zoom'],
    isAside: true,
    keeps: [slicingSlot, ...(lettering.keeps ?? [])],
    forget: () => {
      forgetPageDelivery();
      lettering.forget?.();
    },
    commands: lettering.commands ?? [],
    Chips: () => (
      <TurningRows
        rows={[
          {
            label: 'Deliver',
            icon: Deliver,
            tools: [deliver],
            chips: <FinishChips chip={<ToolChip {...deliver} />} />,
          },
          { label: 'Lettering', icon: Letters, tools: lettering.tools },
        ]}
      />
    ),
  }) satisfies Stage;
