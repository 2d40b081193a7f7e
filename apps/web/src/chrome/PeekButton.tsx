import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import { Pressable } from 'react-native';
import { Icon, web } from '../look';
import { withKey } from '../keys';
import { useDesk } from '../board';

const peek = (peeking: boolean) => useDesk.setState({ peeking });

/** Hides the rough while it is held, by pointer or key. */
export function PeekButton() {
  const isPeeking = useDesk((desk) => desk.peeking);
  return (
    <Pressable
      role="button"
      aria-label="Peek: hide the rough while held"
      aria-pressed={isPeeking}
      onPressIn={() => peek(true)}
      onPressOut={() => peek(false)}
      className={`h-11 w-11 items-center justify-center rounded-xl ${isPeeking ? 'bg-raised' : ''}`}
      {...web({ title: withKey('peek') })}
    >
      <Icon of={isPeeking ? EyeOff : Eye} tone={isPeeking ? 'seal' : 'ink'} />
    </Pressable>
  );
}
