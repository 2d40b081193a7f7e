import Deliver from 'lucide-react-native/icons/package-check';
import Letters from 'lucide-react-native/icons/message-circle';
import type { Stage, Tool, Wing } from '../../board';
import { closePreview } from '../../deliver';
import { TurningRows } from '../../hand';
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

/** The page is lettered and checked, by wings, and delivered. */
export const finishStage = (press: Wing, lettering: Wing) =>
  ({
    id: 'finish',
    label: 'Finish',
    key: 'Digit3',
    tools: [deliver, ...press.tools, ...lettering.tools],
    holds: ['move', 'scrub-zoom'],
    isAside: true,
    // What lets go of the board's sketch comes before who takes it up.
    keeps: [...(press.keeps ?? []), slicingSlot, ...(lettering.keeps ?? [])],
    forget: () => {
      forgetPageDelivery();
      closePreview();
      press.forget?.();
      lettering.forget?.();
    },
    commands: [...(press.commands ?? []), ...(lettering.commands ?? [])],
    Chips: () => (
      <TurningRows
        rows={[
          {
            label: 'Deliver',
            icon: Deliver,
            tools: [deliver, ...press.tools],
            chips: <FinishChips tools={[deliver, ...press.tools]} />,
          },
          { label: 'Lettering', icon: Letters, tools: lettering.tools },
        ]}
      />
    ),
  }) satisfies Stage;
