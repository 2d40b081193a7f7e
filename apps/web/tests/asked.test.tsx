import { SHIPPED_NIBS, type Rack } from '@true-nib/core/rack';
import { TEMPLATES } from '@true-nib/core/templates';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react-native';
import { createElement, type ReactNode } from 'react';
import { addTemplate, dropTemplate, useKeptTemplates, useOwnTemplates } from '../src/guiding/templateStore';
import { hush } from '../src/look/notices';
import { changeNib, useRack } from '../src/nibs/rackStore';
import { useKeptRack } from '../src/nibs/rackSync';

/** A server that answers by method and path, or is gone. */
let answer: (method: string, path: string, body: string) => unknown;
const gone = () => Promise.reject(new TypeError('gone'));
const refusal = Response.json({ title: 'There is no room', detail: '' }, { status: 409 });

let queries: QueryClient;
beforeEach(() => {
  queries = new QueryClient({
    defaultOptions: {
      queries: { retry: false, gcTime: Infinity, networkMode: 'always' },
      mutations: { networkMode: 'always', gcTime: Infinity },
    },
  });
  global.fetch = jest.fn(async (path, init) => {
    const answered = await answer(init?.method ?? 'GET', String(path), String(init?.body));
    return answered instanceof Response ? answered : Response.json(answered);
  });
});
afterEach(() => {
  queries.clear();
  hush();
});

const open = (hook: () => void) =>
  renderHook(hook, {
    wrapper: ({ children }: { readonly children: ReactNode }) =>
      createElement(QueryClientProvider, { client: queries }, children),
  });

describe('templates of one’s own', () => {
  const own = (id: string) => ({ ...TEMPLATES[0], id, name: id });
  let kept: string[] = [];
  const names = () => useOwnTemplates.getState().own.map(({ id }) => id);
  const server = (method: string, path: string) => {
    const id = path.split('/').at(-1) ?? '';
    if (method === 'GET') return kept.map((one) => JSON.parse(JSON.stringify(templateOf(one))));
    if (id === 'refused') return refusal.clone();
    kept = method === 'PUT' ? [id, ...kept] : kept.filter((one) => one !== id);
    return {};
  };
  const templateOf = (id: string) => useOwnTemplates.getState().own.find((one) => one.id === id) ?? sent.get(id);
  const sent = new Map<string, unknown>();

  beforeEach(() => {
    kept = [];
    sent.clear();
    useOwnTemplates.setState({ own: [], unsent: [], dropped: [], refused: [] });
    answer = server;
  });

  it('go to the server when it is back; what it refuses stays here and holds up nothing', async () => {
    answer = gone;
    open(useKeptTemplates);
    act(() => {
      addTemplate(own('refused'));
      addTemplate(own('arch'));
    });
    await waitFor(() => expect(queries.isMutating()).toBe(0));
    expect(useOwnTemplates.getState().unsent).toEqual(['refused', 'arch']);
    answer = server;
    act(() => addTemplate(own('star')));
    await waitFor(() => expect(kept).toEqual(['star', 'arch']));
    await waitFor(() => expect(queries.isFetching() + queries.isMutating()).toBe(0));
    expect(useOwnTemplates.getState().unsent).toEqual([]);
    expect(names().sort()).toEqual(['arch', 'refused', 'star']);
  });

  it('come from the server, but for those that were deleted here', async () => {
    addTemplate(own('arch'));
    for (const one of useOwnTemplates.getState().own) sent.set(one.id, one);
    sent.set('star', { ...useOwnTemplates.getState().own[0], id: 'star' });
    useOwnTemplates.setState({ own: [], unsent: [], dropped: ['arch'] });
    kept = ['arch', 'star'];
    open(useKeptTemplates);
    await waitFor(() => expect(kept).toEqual(['star']));
    await waitFor(() => expect(names()).toEqual(['star']));
    act(() => dropTemplate('star'));
    await waitFor(() => expect(kept).toEqual([]));
    await waitFor(() => expect(queries.isFetching()).toBe(0));
    expect(names()).toEqual([]);
  });
});

describe('the nib rack', () => {
  let kept: { revision: number; nibs: Rack | null };
  const server = (method: string, _path: string, body: string) => {
    if (method === 'GET') return kept;
    const { since, nibs } = JSON.parse(body) as { since: number; nibs: Rack };
    if (since !== kept.revision) return { ...kept, isKept: false };
    kept = { revision: since + 1, nibs };
    return { ...kept, isKept: true };
  };
  const sizeOf = (rack: Rack | null, id: string) => rack?.find((one) => one.id === id)?.nib.size;
  const inHand = 'pressure';
  const other = 'fixed-liner';

  beforeEach(() => {
    kept = { revision: 0, nibs: null };
    useRack.setState({ rack: SHIPPED_NIBS, base: SHIPPED_NIBS, inHand, revision: 0 });
    answer = server;
  });

  it('is kept on a server that had none', async () => {
    open(useKeptRack);
    await waitFor(() => expect(kept.revision).toBe(1), { timeout: 3_000 });
    expect(kept.nibs).toHaveLength(SHIPPED_NIBS.length);
  });

  it('takes what another browser changed, beneath what was changed here', async () => {
    const theirs = SHIPPED_NIBS.map((one) => (one.id === other ? { ...one, nib: { ...one.nib, size: 0.77 } } : one));
    useRack.setState({ revision: 1 });
    kept = { revision: 1, nibs: SHIPPED_NIBS };
    open(useKeptRack);
    await waitFor(() => expect(queries.isFetching()).toBe(0));
    kept = { revision: 2, nibs: theirs };
    act(() => changeNib({ size: 0.99 }));
    await waitFor(() => expect(kept.revision).toBe(3), { timeout: 3_000 });
    expect([sizeOf(kept.nibs, inHand), sizeOf(kept.nibs, other)]).toEqual([0.99, 0.77]);
    expect(sizeOf(useRack.getState().rack, other)).toBe(0.77);
  });

  it('goes when the board is left', async () => {
    kept = { revision: 1, nibs: SHIPPED_NIBS };
    useRack.setState({ revision: 1 });
    const { unmount } = open(useKeptRack);
    await waitFor(() => expect(queries.isFetching()).toBe(0));
    act(() => changeNib({ size: 0.88 }));
    unmount();
    await waitFor(() => expect(sizeOf(kept.nibs, inHand)).toBe(0.88));
  });
});
