import { useFocusEffect } from 'expo-router';
import { memo, useCallback, useRef, type ReactElement } from 'react';
import { FlatList, useWindowDimensions, View } from 'react-native';
import { useIsWide } from '../look';
import { cardHeight } from './Card';

interface CardGridProps<Item> {
  readonly items: readonly Item[];
  /** The same function as long as the same items are to look the same. */
  readonly card: (item: Item, index: number) => ReactElement;
}

/** CSS px around the cards and between them, and how wide a card gets. */
const AROUND = 20;
const WIDEST = { bench: 230, desk: 280 } as const;
/** A folio may have hundreds of pages: rows that are there at first and that follow at a time, heights of the window kept ready. */
const FIRST_ROWS = 4;
const ROWS_AT_A_TIME = 2;
const WINDOWS = 5;

interface CellProps<Item> {
  readonly item: Item;
  readonly index: number;
  readonly width: number;
  readonly card: CardGridProps<Item>['card'];
}

/** Rows that come are no reason to draw those anew that are there. */
const Cell = memo(function Cell<Item>({ item, index, width, card }: CellProps<Item>) {
  return <View style={{ width }}>{card(item, index)}</View>;
}) as <Item>(props: CellProps<Item>) => ReactElement;

/** Cards in as many columns as there is room for, two at least. */
export function CardGrid<Item extends { readonly id: string }>({ items, card }: CardGridProps<Item>) {
  const isRoomy = useIsWide();
  const widest = WIDEST[isRoomy ? 'desk' : 'bench'];
  const room = useWindowDimensions().width - AROUND;
  const columns = Math.max(2, Math.floor(room / (widest + AROUND)));
  const width = Math.min(widest, room / columns - AROUND);
  const row = cardHeight(isRoomy) + AROUND;
  const list = useRef<FlatList<Item>>(null);
  useFocusEffect(
    useCallback(() => {
      // Under another screen it may have read that it stands at its top, and nobody tells it that it does not.
      const node: unknown = list.current?.getScrollableNode();
      if (node instanceof EventTarget) node.dispatchEvent(new Event('scroll'));
    }, []),
  );
  return (
    <FlatList
      ref={list}
      // Its columns cannot change.
      key={columns}
      data={items}
      numColumns={columns}
      keyExtractor={({ id }) => id}
      renderItem={({ item, index }) => <Cell {...{ item, index, width, card }} />}
      // Not measured: under another screen rows have no height, and the list would lose its place.
      getItemLayout={(_items, index) => ({ length: row, offset: AROUND + index * row, index })}
      initialNumToRender={FIRST_ROWS}
      maxToRenderPerBatch={ROWS_AT_A_TIME}
      updateCellsBatchingPeriod={16}
      windowSize={WINDOWS}
      contentContainerStyle={{ padding: AROUND, paddingBottom: 0 }}
      columnWrapperStyle={{ gap: AROUND, height: row }}
    />
  );
}
