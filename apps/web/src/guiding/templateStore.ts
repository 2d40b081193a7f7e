import { checkOwnTemplate, templateToJson, TEMPLATES, type Template } from '@true-nib/core/templates';
import { keptStore } from '../base';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { isRefusal, KEYS, request, requestJson } from '../api';
import { say } from '../look';

type Kept = ReturnType<typeof templateToJson>;

interface OwnTemplates {
  /** As plain JSON, so that the browser can keep what the server has not heard of. */
  readonly own: readonly Kept[];
  readonly unsent: readonly string[];
  readonly dropped: readonly string[];
  /** What the server will not keep stays in this browser. */
  readonly refused: readonly string[];
}

/** Templates of one's own, besides those that come with the desk: kept on the server, and here until they are. */
export const useOwnTemplates = keptStore<OwnTemplates>({
  name: 'true-nib.templates',
  version: 1,
  fresh: { own: [], unsent: [], dropped: [], refused: [] },
  kept: ['own', 'unsent', 'dropped', 'refused'],
});

/** All templates: those of one's own first. */
export const allTemplates = (own: OwnTemplates['own']): readonly Template[] => [
  ...own.map((one) => checkOwnTemplate(one)),
  ...TEMPLATES,
];

export const templateById = (id: string): Template | undefined =>
  allTemplates(useOwnTemplates.getState().own).find((template) => template.id === id);

export function addTemplate(template: Template): void {
  const { own, unsent } = useOwnTemplates.getState();
  useOwnTemplates.setState({ own: [templateToJson(template), ...own], unsent: [...unsent, template.id] });
}

export function dropTemplate(id: string): void {
  const { own, unsent, dropped, refused } = useOwnTemplates.getState();
  useOwnTemplates.setState({
    own: own.filter((one) => one.id !== id),
    unsent: unsent.filter((one) => one !== id),
    refused: refused.filter((one) => one !== id),
    dropped: [...dropped, id],
  });
}

/** Tells the server what it has not heard of; what cannot be sent goes the next time. */
async function sendTemplates(): Promise<void> {
  for (const id of useOwnTemplates.getState().dropped) {
    await request(`/templates/${id}`, { method: 'DELETE' });
    useOwnTemplates.setState(({ dropped }) => ({ dropped: dropped.filter((one) => one !== id) }));
  }
  for (const id of useOwnTemplates.getState().unsent) {
    const one = useOwnTemplates.getState().own.find((template) => template.id === id);
    // One that the server refuses for good must not hold up those behind it.
    if (one)
      await requestJson(`/templates/${id}`, 'PUT', one).catch((error: unknown) => {
        if (!isRefusal(error)) throw error;
        useOwnTemplates.setState(({ refused }) => ({ refused: [...refused, id] }));
        say(`The template "${one.name}" cannot be kept. ${error.message}`);
      });
    useOwnTemplates.setState(({ unsent }) => ({ unsent: unsent.filter((other) => other !== id) }));
  }
}

const fetchTemplates = async (): Promise<Kept[]> =>
  (await requestJson<unknown[]>('/templates')).map((one) => templateToJson(checkOwnTemplate(one)));

/** Takes what the server has, but for what it has not heard of yet. */
function take(theirs: readonly Kept[]): void {
  const { own, unsent, dropped, refused } = useOwnTemplates.getState();
  const onlyHere = own.filter(({ id }) => unsent.includes(id) || refused.includes(id));
  const known = new Set([...onlyHere.map(({ id }) => id), ...dropped]);
  useOwnTemplates.setState({ own: [...onlyHere, ...theirs.filter(({ id }) => !known.has(id))] });
}

const isWaiting = ({ unsent, dropped }: OwnTemplates): boolean => unsent.length + dropped.length > 0;

/** Brings the templates here and on the server together while a board is open. */
export function useKeptTemplates(): void {
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: KEYS.templates, queryFn: fetchTemplates });
  const { mutate: send } = useMutation({
    mutationFn: sendTemplates,
    scope: { id: 'templates' },
    // What was asked for before knows nothing of what is sent now.
    onMutate: () => queries.cancelQueries({ queryKey: KEYS.templates }),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS.templates }),
  });
  useEffect(() => {
    if (data) take(data);
  }, [data]);
  useEffect(() => {
    if (isWaiting(useOwnTemplates.getState())) send();
    return useOwnTemplates.subscribe((now, before) => {
      if (now.unsent.length + now.dropped.length > before.unsent.length + before.dropped.length) send();
    });
  }, [send]);
}
