import { spreadsOf, type Opening, type Spread } from '@true-nib/core/page';
import { Link } from 'expo-router';
import MoreHorizontal from 'lucide-react-native/icons/ellipsis';
import { FlatList, Image, Pressable, Text, useWindowDimensions, View } from 'react-native';
import { thumbnailAddress, type PageCard } from '../api';
import { IconButton, useIsWide } from '../look';

interface SpreadGridProps {
  readonly pages: readonly PageCard[];
  readonly opening: Opening;
  readonly onMore: (page: PageCard) => void;
}

/** CSS px around spreads and between them, how wide a page gets, and the lines of words beneath it. */
const AROUND = 20;
const WIDEST = 300;
const WORDS_HEIGHT = 60;
/** How high a page is shown at most, by its width: a tall scroll shows its top. */
const TALLEST = 1.5;

/** The pages of a folio as a reader opens them, two side by side. */
export function SpreadGrid({ pages, opening, onMore }: SpreadGridProps) {
  const room = useWindowDimensions().width - AROUND;
  const columns = useIsWide() ? Math.max(1, Math.floor(room / (2 * WIDEST + AROUND))) : 1;
  const width = Math.min(WIDEST, (room / columns - AROUND) / 2);
  const height = Math.min(
    TALLEST * width,
    Math.max(...pages.map((page) => (page.height / page.width) * (page.width > page.height ? 2 : 1) * width)),
  );
  const numbers = new Map(pages.map(({ id }, k) => [id, k + 1]));
  return (
    <FlatList
      key={columns}
      data={spreadsOf(pages, opening)}
      numColumns={columns}
      keyExtractor={(spread) => idsOf(spread).join(' ')}
      initialNumToRender={4}
      contentContainerStyle={{ padding: AROUND, paddingTop: 0 }}
      {...(columns > 1 && { columnWrapperStyle: { gap: AROUND } })}
      renderItem={({ item: { left, right, across } }) => (
        <View role="group" aria-label={inWords({ left, right, across }, numbers)} className="flex-row pt-5">
          {across ? (
            <Side page={across} number={numbers.get(across.id)} {...{ width: 2 * width, height, onMore }} />
          ) : (
            <>
              <Side page={left} number={left && numbers.get(left.id)} to="right" {...{ width, height, onMore }} />
              <View className="w-px bg-rule" style={{ height }} />
              <Side page={right} number={right && numbers.get(right.id)} to="left" {...{ width, height, onMore }} />
            </>
          )}
        </View>
      )}
    />
  );
}

const idsOf = ({ left, right, across }: Spread<PageCard>): string[] =>
  [left, right, across].flatMap((page) => page?.id ?? []);

function inWords(spread: Spread<PageCard>, numbers: ReadonlyMap<string, number>): string {
  const said = idsOf(spread)
    .map((id) => numbers.get(id) ?? 0)
    .sort((one, other) => one - other);
  return said.length === 1 ? `Page ${said[0]}` : `Pages ${said.join(' and ')}`;
}

interface SideProps {
  readonly page: PageCard | undefined;
  readonly number: number | undefined;
  readonly width: number;
  readonly height: number;
  /** Towards which side the fold lies. */
  readonly to?: 'left' | 'right';
  readonly onMore: (page: PageCard) => void;
}

/** One side of a spread: a page with its number, or a bare one. */
function Side({ page, number, width, height, to, onMore }: SideProps) {
  if (!page) return <View style={{ width, height }} className="border border-dashed border-rule" />;
  const shownWidth = Math.min(width, (height * page.width) / page.height);
  const fitted = page.height / page.width > TALLEST ? width : shownWidth;
  const shownHeight = Math.min(height, (fitted * page.height) / page.width);
  return (
    <View style={{ width }}>
      <Link href={`/page/${page.id}`} asChild>
        <Pressable role="link" aria-label={`Open ${page.name}`} className="active:opacity-80">
          <View
            style={{ height }}
            className={`justify-end ${to === 'right' ? 'items-end' : to === 'left' ? 'items-start' : 'items-center'}`}
          >
            <View className="overflow-hidden bg-paper shadow-md" style={{ width: fitted, height: shownHeight }}>
              {page.thumbnail !== null && (
                <Image
                  source={{ uri: thumbnailAddress(page.id, page.thumbnail) }}
                  accessibilityLabel={`Picture of ${page.name}`}
                  style={{ width: '100%', aspectRatio: page.width / page.height }}
                />
              )}
            </View>
          </View>
        </Pressable>
      </Link>
      <View
        className={`items-start ${to === 'right' ? 'flex-row-reverse' : 'flex-row'}`}
        style={{ height: WORDS_HEIGHT }}
      >
        <View className={`shrink grow px-1 pt-2 ${to === 'right' ? 'items-end' : 'items-start'}`}>
          <Text className="font-bold text-14 text-ink">{number}</Text>
          <Text className="font-sans text-12 text-faint" numberOfLines={1}>
            {page.name}
          </Text>
        </View>
        <IconButton label={`More for ${page.name}`} icon={MoreHorizontal} onPress={() => onMore(page)} />
      </View>
    </View>
  );
}
