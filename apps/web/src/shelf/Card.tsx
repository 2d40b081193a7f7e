import { Link, type Href } from 'expo-router';
import MoreHorizontal from 'lucide-react-native/icons/ellipsis';
import { Image, Pressable, Text, View } from 'react-native';
import { thumbnailAddress } from '../api';
import { IconButton, useIsWide } from '../look';

interface CardProps {
  readonly name: string;
  readonly detail: string;
  /** What the artist should know of it first. */
  readonly warning?: string;
  /** The page whose picture is shown, and the revision it shows. */
  readonly picture: {
    readonly pageId: string;
    readonly revision: number | null;
    readonly width: number;
    readonly height: number;
  } | null;
  /** Where it leads: a link like any other, to be opened in a tab of its own too. */
  readonly href: Href;
  readonly onMore: () => void;
}

const pictureHeight = (isRoomy: boolean): number => (isRoomy ? 270 : 210);
/** A name of two lines, what is told beneath it, and the gap above. */
const WORDS_HEIGHT = 72;

/** CSS px of a card, whatever its name. */
export const cardHeight = (isRoomy: boolean): number => pictureHeight(isRoomy) + WORDS_HEIGHT;

/** A folio or a page on the shelf: its picture as a sheet of paper, its name, and what can be done with it. */
export function Card({ name, detail, warning, picture, href, onMore }: CardProps) {
  const ratio = picture ? Math.min(1.6, Math.max(0.5, picture.width / picture.height)) : 0.7;
  const roomy = useIsWide();
  const height = pictureHeight(roomy);
  return (
    <View className="gap-1">
      <Link href={href} asChild>
        <Pressable role="link" aria-label={`Open ${name}`} className="gap-2 active:opacity-80">
          <View className="items-center justify-center" style={{ height }}>
            <View
              className="max-h-full max-w-full overflow-hidden bg-paper shadow-md"
              style={{
                aspectRatio: ratio,
                height: ratio < 0.8 ? height : undefined,
                width: ratio < 0.8 ? undefined : '100%',
              }}
            >
              {picture && picture.revision !== null && (
                <Image
                  source={{ uri: thumbnailAddress(picture.pageId, picture.revision) }}
                  accessibilityLabel={`Picture of ${name}`}
                  // A tall page shows its top.
                  style={{ width: '100%', aspectRatio: picture.width / picture.height }}
                />
              )}
            </View>
          </View>
        </Pressable>
      </Link>
      <View className="flex-row items-start">
        {/* The picture is the link; a touch of the name opens it as well. */}
        <Link href={href} asChild>
          <Pressable tabIndex={-1} aria-hidden className="shrink grow pt-1">
            <Text className="font-bold text-16 text-ink" numberOfLines={2}>
              {name}
            </Text>
            <Text className="font-sans text-12 text-faint" numberOfLines={1}>
              {warning !== undefined && <Text className="font-bold text-seal">{`${warning} · `}</Text>}
              {detail}
            </Text>
          </Pressable>
        </Link>
        <IconButton label={`More for ${name}`} icon={MoreHorizontal} onPress={onMore} />
      </View>
    </View>
  );
}
