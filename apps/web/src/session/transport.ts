import { checkChange, type Change, type ChangeHeader, type ChangeId, type Entity } from '@true-nib/core/page';
import { checkParts, entitiesIn, listRecordHead, PACKED_TYPE, unpack, type PackedParts } from '@true-nib/core/wire';
import { ApiProblem, request, requestJson } from '../api/request';
import type { PageCard } from '../api/shelf';
import { breath } from '../base/breath';
import type { PackedChange } from './outbox';

/** The answer to sending changes: saved, or what came between first. */
export type Sent =
  | { readonly outcome: 'saved'; readonly revision: number }
  | { readonly outcome: 'stale'; readonly revision: number; readonly between: readonly Change[] };

/** Where a tab stands that knows a page: at which revision, and which change that was; none at the beginning. */
export interface Stand {
  readonly revision: number;
  readonly lastId: ChangeId | undefined;
}

/** A page as the server holds it. */
export interface LoadedPage {
  readonly card: PageCard;
  readonly entities: readonly Entity[];
}

/** Hears of a page as it came, packed, before it is unpacked here: workers can begin. */
export type PartsListener = (card: PageCard, parts: PackedParts) => void;

/** What a session needs of the server. */
export interface Transport {
  load(pageId: string, onParts?: PartsListener): Promise<LoadedPage>;
  headers(pageId: string): Promise<readonly ChangeHeader[]>;
  since(pageId: string, stand: Stand): Promise<{ readonly revision: number; readonly changes: readonly Change[] }>;
  change(pageId: string, changeId: string): Promise<Change>;
  /** Sends changes; `packed` are their bytes, in the same order. */
  send(pageId: string, stand: Stand, changes: readonly Change[], packed: readonly PackedChange[]): Promise<Sent>;
  sendBlob(sha256: string, bytes: Blob): Promise<void>;
  blob(sha256: string): Promise<Blob>;
}

const packed = { accept: PACKED_TYPE };
/** Entities unpacked in one go: a few ms. */
const PART = 600;

async function packedPair(response: Response): Promise<readonly [unknown, readonly unknown[]]> {
  const pair = unpack(new Uint8Array(await response.arrayBuffer()));
  if (!Array.isArray(pair) || !Array.isArray(pair[1]))
    throw new TypeError('The server answered something else than a packed page.');
  return [pair[0], pair[1]];
}

async function changesIn(response: Response): Promise<{ revision: number; changes: Change[] }> {
  const [revision, changes] = await packedPair(response);
  return { revision: Number(revision), changes: changes.map(checkChange) };
}

/** Unpacks a page's entities part by part, so that opening a full page never holds up the screen. */
async function unpackedInParts(parts: PackedParts): Promise<Entity[]> {
  const entities: Entity[] = [];
  for (const entity of entitiesIn(parts)) {
    entities.push(entity);
    if (entities.length % PART === 0) await breath();
  }
  return entities;
}

// The very address that the server tells the browser to fetch ahead, when a page is what is opened first.
const askPage = (pageId: string): Promise<Response> => request(`/pages/${encodeURIComponent(pageId)}?form=packed`);

/** A page as it came, not yet unpacked. */
interface PackedPage {
  readonly card: PageCard;
  readonly parts: PackedParts;
}

async function fetchPage(pageId: string): Promise<PackedPage> {
  const response = await askPage(pageId);
  const pair = unpack(new Uint8Array(await response.arrayBuffer()));
  if (!Array.isArray(pair)) throw new TypeError('The server answered something else than a packed page.');
  return { card: pair[0] as PageCard, parts: checkParts(pair[1]) };
}

let fetching: { readonly pageId: string; readonly page: Promise<PackedPage> } | undefined;

/** Fetches a page before anybody loads it: whoever loads it first gets that answer. */
export function fetchAhead(pageId: string): Promise<PackedPage> {
  fetching = { pageId, page: fetchPage(pageId) };
  return fetching.page;
}

function takeAhead(pageId: string): Promise<PackedPage> | undefined {
  const taken = fetching?.pageId === pageId ? fetching.page : undefined;
  fetching = undefined;
  return taken;
}

export const httpTransport: Transport = {
  async load(pageId, onParts) {
    const { card, parts } = await (takeAhead(pageId) ?? fetchPage(pageId));
    onParts?.(card, parts);
    return { card, entities: await unpackedInParts(parts) };
  },
  async headers(pageId) {
    return (await requestJson<{ changes: ChangeHeader[] }>(`/pages/${pageId}/changes?only=headers`)).changes;
  },
  async since(pageId, { revision, lastId }) {
    const known = lastId === undefined ? '' : `&lastId=${encodeURIComponent(lastId)}`;
    return changesIn(await request(`/pages/${pageId}/changes?since=${revision}${known}`, { headers: packed }));
  },
  async change(pageId, changeId) {
    const { changes } = await changesIn(
      await request(`/pages/${pageId}/changes/${encodeURIComponent(changeId)}`, { headers: packed }),
    );
    return changes[0];
  },
  async send(pageId, { revision: since, lastId }, _changes, bytes) {
    const head = listRecordHead(lastId === undefined ? { since } : { since, lastId }, 'changes', bytes.length);
    const body = new Blob([head, ...bytes].map((part) => (part instanceof Blob ? part : new Uint8Array(part))));
    const headers = { ...packed, 'content-type': PACKED_TYPE };
    const response = await request(`/pages/${pageId}/changes`, { method: 'POST', headers, body });
    if (response.headers.get('content-type')?.startsWith(PACKED_TYPE)) {
      const { revision, changes: between } = await changesIn(response);
      return { outcome: 'stale', revision, between };
    }
    const { revision } = (await response.json()) as { revision: number };
    return { outcome: 'saved', revision };
  },
  async sendBlob(sha256, bytes) {
    await request(`/blobs/${sha256}`, {
      method: 'PUT',
      headers: { 'content-type': bytes.type || 'application/octet-stream' },
      body: bytes,
    });
  },
  async blob(sha256) {
    return (await request(`/blobs/${sha256}`)).blob();
  },
};

/** Whether the server never stood where this tab stands: a copy of its data was put back. */
export const isPutBack = (error: unknown): boolean => error instanceof ApiProblem && error.status === 412;
