import type { Sought } from '@true-nib/core/lettering';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import FileText from 'lucide-react-native/icons/file-text';
import { useMemo, useState } from 'react';
import { Text, View } from 'react-native';
import {
  fetchLettering,
  KEYS,
  letteringFile,
  replaceWords,
  request,
  takeBackWords,
  type LetteredPage,
  type ReplacedWords,
} from '../api';
import { Button, download, Faint, Field, sayError, Sheet, Switch } from '../look';
import { author } from '../session';
import { foundOn, PageWords } from './FoundWords';

interface LetteringSheetProps {
  readonly folioId: string;
  readonly name: string;
  readonly onClose: () => void;
}

/** Texts that are listed at once. */
const MOST = 200;

/** All that is written in a folio: read, searched, replaced, taken away as a text file. */
export function LetteringSheet({ folioId, name, onClose }: LetteringSheetProps) {
  const lettering = useQuery({ queryKey: KEYS.lettering(folioId), queryFn: () => fetchLettering(folioId) });
  const [sought, setSought] = useState<Sought>({ words: '' });
  const [other, setOther] = useState('');
  const pages = lettering.data;
  const found = useMemo(() => (pages ? foundOn(pages, sought) : []), [pages, sought]);
  const count = found.reduce((sum, { places }) => sum + places.length, 0);
  const { replace, takeBack, done } = useReplacing(folioId, pages ?? []);
  const isBusy = replace.isPending || takeBack.isPending;
  const save = useMutation({
    mutationFn: async () => download(await (await request(letteringFile(folioId))).blob(), `${name} lettering.txt`),
    onError: sayError,
  });
  const isEmpty = pages?.every(({ texts }) => texts.length === 0);
  const footer = (
    <View className="flex-row flex-wrap gap-2">
      <Button
        label={count < 2 ? 'Replace' : `Replace all ${count}`}
        tone="seal"
        disabled={count === 0 || isBusy}
        onPress={() => replace.mutate({ sought, other })}
      />
      <Button
        label="Save as text"
        icon={FileText}
        disabled={isEmpty !== false || save.isPending}
        onPress={() => save.mutate()}
      />
    </View>
  );
  return (
    <Sheet title="Lettering" onClose={onClose} footer={footer}>
      <SoughtFields {...{ sought, other }} onSought={setSought} onOther={setOther} />
      {done && (
        <View className="flex-row items-center justify-between gap-3 rounded-xl border border-rule bg-raised px-3 py-2">
          <Text role="status" className="shrink font-sans text-14 text-ink">
            {done.words}
          </Text>
          {done.changes.length > 0 && (
            <Button label="Take back" disabled={isBusy} onPress={() => takeBack.mutate(done.changes)} />
          )}
        </View>
      )}
      {lettering.isError && <Faint>{lettering.error.message}</Faint>}
      {lettering.isPending && <Faint>Reading the pages…</Faint>}
      {isEmpty && <Faint>Nothing is written in this folio yet. Letter a page in the stage Finish.</Faint>}
      {isEmpty === false && sought.words !== '' && (
        <Faint>{count === 0 ? 'Not found.' : `Found ${count} ${count === 1 ? 'time' : 'times'}.`}</Faint>
      )}
      {pages?.map((page, k) => (
        <PageWords
          key={page.id}
          title={`${k + 1} · ${page.name}`}
          found={found.slice(0, MOST).filter(({ pageId }) => pageId === page.id)}
        />
      ))}
      {found.length > MOST && <Faint>{`${found.length - MOST} more are not shown here.`}</Faint>}
    </Sheet>
  );
}

/** What was done last, in words, and the changes by which it can be taken back. */
interface Done {
  readonly words: string;
  readonly changes: ReplacedWords['changes'];
}

function useReplacing(folioId: string, pages: readonly LetteredPage[]) {
  const queries = useQueryClient();
  const [done, setDone] = useState<Done>();
  const shared = {
    onError: sayError,
    onSettled: () => queries.invalidateQueries({ queryKey: KEYS.folio(folioId) }),
  };
  const replace = useMutation({
    mutationFn: ({ sought, other }: { readonly sought: Sought; readonly other: string }) =>
      replaceWords(folioId, sought, other, author()),
    onSuccess: (replaced) => setDone({ words: doneInWords(replaced, pages), changes: replaced.changes }),
    ...shared,
  });
  const takeBack = useMutation({
    mutationFn: (changes: ReplacedWords['changes']) => takeBackWords(folioId, changes, author()),
    onSuccess: ({ left }) => setDone({ words: takenBackInWords(left), changes: [] }),
    ...shared,
  });
  return { replace, takeBack, done };
}

const takenBackInWords = (left: number): string =>
  left === 0
    ? 'Taken back.'
    : `Taken back, but for ${left === 1 ? 'one page that was' : `${left} pages that were`} changed since.`;

function doneInWords(
  { count, locked, tight, missing, changes }: ReplacedWords,
  pages: readonly LetteredPage[],
): string {
  const numbers = tight.map(({ id }) => pages.findIndex((page) => page.id === id) + 1);
  return [
    `Replaced ${count} ${count === 1 ? 'time' : 'times'} on ${changes.length} ${changes.length === 1 ? 'page' : 'pages'}.`,
    ...(locked > 0 ? [`${locked} on locked layers ${locked === 1 ? 'was' : 'were'} left.`] : []),
    ...(numbers.length > 0 ? [`Some text is too long for its balloon now: page ${numbers.join(', ')}.`] : []),
    ...(missing.length > 0 ? [`A font has no letter for ${missing.join(' ')}.`] : []),
  ].join(' ');
}

interface SoughtFieldsProps {
  readonly sought: Sought;
  readonly other: string;
  readonly onSought: (sought: Sought) => void;
  readonly onOther: (other: string) => void;
}

/** What is looked for, how, and what comes in its place. */
function SoughtFields({ sought, other, onSought, onOther }: SoughtFieldsProps) {
  return (
    <>
      <View className="flex-row gap-3">
        <Field label="Find" value={sought.words} onChange={(words) => onSought({ ...sought, words })} autoFocus />
        <Field label="Replace with" value={other} onChange={onOther} />
      </View>
      <View className="flex-row gap-5">
        <Switch label="Whole words" on={sought.whole ?? false} onChange={(whole) => onSought({ ...sought, whole })} />
        <Switch
          label="Capitals count"
          on={sought.asWritten ?? false}
          onChange={(asWritten) => onSought({ ...sought, asWritten })}
        />
      </View>
    </>
  );
}
