import { useQuery } from '@tanstack/react-query';
import { fetchFolio, KEYS, thumbnailAddress, type PageCard } from '../../api';
import { Image, Pressable, Text, View } from 'react-native';
import { useBoard } from '../../board';
import { Choice, Faint, Line } from '../../look';
import { setPageDelivery, usePageDelivery } from './deliverStore';

const PAGES = [
  { value: 'this', label: 'This page' },
  { value: 'some', label: 'Some' },
  { value: 'folio', label: 'All' },
] as const;

/** Which pages go along. */
export function PagesSetting() {
  const pages = usePageDelivery((state) => state.pages);
  const { card } = useBoard().session;
  const choose = (next: typeof pages) =>
    setPageDelivery({ pages: next, ...(next === 'some' && { chosen: [card.id] }) });
  return (
    <>
      <Line>
        <Choice label="Pages" value={pages} options={PAGES} onChange={choose} />
      </Line>
      {pages === 'some' && <ChosenPages folioId={card.folioId} />}
    </>
  );
}

/** The pages of the folio as small pictures: those that were touched go along, in the order of the folio. */
function ChosenPages({ folioId }: { readonly folioId: string }) {
  const { data, error } = useQuery({ queryKey: KEYS.folio(folioId), queryFn: () => fetchFolio(folioId) });
  const chosen = usePageDelivery((state) => state.chosen);
  if (error) return <Faint>{error.message}</Faint>;
  if (!data) return <Faint>Looking …</Faint>;
  const toggle = (id: string) =>
    setPageDelivery({ chosen: chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id] });
  return (
    <View role="group" aria-label="Pages that go along" className="flex-row flex-wrap gap-1">
      {data.pages.map((page, k) => (
        <PageToChoose
          key={page.id}
          page={page}
          place={k + 1}
          isChosen={chosen.includes(page.id)}
          onToggle={() => toggle(page.id)}
        />
      ))}
    </View>
  );
}

interface PageToChooseProps {
  readonly page: PageCard;
  readonly place: number;
  readonly isChosen: boolean;
  readonly onToggle: () => void;
}

function PageToChoose({ page, place, isChosen, onToggle }: PageToChooseProps) {
  return (
    <Pressable
      role="checkbox"
      aria-checked={isChosen}
      aria-label={`Page ${place}, ${page.name}`}
      onPress={onToggle}
      className={`w-[57px] items-center rounded-lg border p-1 ${isChosen ? 'border-seal bg-raised' : 'border-rule'}`}
    >
      <View className="h-[58px] w-full overflow-hidden bg-paper" style={{ opacity: isChosen ? 1 : 0.55 }}>
        {page.thumbnail !== null && (
          <Image
            source={{ uri: thumbnailAddress(page.id, page.thumbnail) }}
            style={{ width: '100%', aspectRatio: page.width / page.height }}
          />
        )}
      </View>
      <Text className={`text-12 ${isChosen ? 'font-bold text-seal' : 'font-sans text-ink'}`}>{place}</Text>
    </Pressable>
  );
}
