import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import type { ReactNode } from 'react';
import { Pressable, Text, View } from 'react-native';
import { setFold, useFolds } from './folds';
import { Icon } from './Icon';

interface FoldHeadProps {
  readonly title: string;
  readonly isOpen: boolean;
  readonly onPress: () => void;
  /** What is said of it beside the title, seen when it is folded too. */
  readonly note?: string;
  /** What it is called to a screen reader, where the title alone does not say it. */
  readonly label?: string;
  /** Stands within another fold. */
  readonly isInner?: boolean;
}

/** The heading of something that folds away. */
export function FoldHead({ title, isOpen, onPress, note, label = title, isInner = false }: FoldHeadProps) {
  return (
    <Pressable
      role="button"
      aria-expanded={isOpen}
      aria-label={note === undefined ? label : `${label}, ${note}`}
      onPress={onPress}
      className="min-h-[44px] flex-row items-center gap-1"
    >
      <Icon of={isOpen ? ChevronDown : ChevronRight} size={16} />
      <Text className={`shrink text-14 text-ink ${isInner ? 'font-sans' : 'font-bold'}`}>{title}</Text>
      {note !== undefined && (
        <Text className="grow text-right font-sans text-12 text-faint" numberOfLines={1}>
          {note}
        </Text>
      )}
    </Pressable>
  );
}

interface FoldProps extends Pick<FoldHeadProps, 'title' | 'note'> {
  readonly isOpenAtFirst?: boolean;
  readonly children: ReactNode;
}

/** A part of a panel that is not always needed: it folds away under its heading, and stays as it was left. */
export function Fold({ title, note, isOpenAtFirst = false, children }: FoldProps) {
  const isOpen = useFolds(({ open }) => open[title]) ?? isOpenAtFirst;
  return (
    <View className="gap-2">
      <FoldHead title={title} note={note} isOpen={isOpen} onPress={() => setFold(title, !isOpen)} />
      {isOpen && children}
    </View>
  );
}
