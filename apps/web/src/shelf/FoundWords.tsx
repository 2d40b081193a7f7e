import { foundIn, textOfRuns, type Sought, type Stretch } from '@true-nib/core/lettering';
import { Text, View } from 'react-native';
import type { LetteredPage } from '../api';

/** A text, and where in it stands what is looked for. */
export interface Found {
  readonly pageId: string;
  readonly text: LetteredPage['texts'][number];
  readonly places: readonly Stretch[];
}

/** The texts that words stand in; all of them where none are looked for. */
export function foundOn(pages: readonly LetteredPage[], sought: Sought): Found[] {
  const all = pages.flatMap(({ id, texts }) =>
    texts.map((text): Found => ({ pageId: id, text, places: foundIn(text.runs, sought) })),
  );
  return sought.words === '' ? all : all.filter(({ places }) => places.length > 0);
}

/** The texts of one page, with what was found in bold. */
export function PageWords({ title, found }: { readonly title: string; readonly found: readonly Found[] }) {
  if (found.length === 0) return null;
  return (
    <View role="list" aria-label={title} className="gap-1">
      <Text className="font-bold text-12 text-faint">{title}</Text>
      {found.map(({ text, places }) => (
        <Text key={text.id} role="listitem" className="font-sans text-14 text-ink">
          {partsOf(textOfRuns(text.runs), places).map(({ words, isFound }, k) => (
            <Text key={k} className={isFound ? 'font-bold text-seal underline' : ''}>
              {words}
            </Text>
          ))}
        </Text>
      ))}
    </View>
  );
}

/** A text parted where something was found. */
function partsOf(text: string, places: readonly Stretch[]): { readonly words: string; readonly isFound: boolean }[] {
  let at = 0;
  const parts = places.flatMap(([from, to]) => {
    const before = text.slice(at, from);
    at = to;
    return [
      { words: before, isFound: false },
      { words: text.slice(from, to), isFound: true },
    ];
  });
  return [...parts, { words: text.slice(at), isFound: false }].filter(({ words }) => words !== '');
}
