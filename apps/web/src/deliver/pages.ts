import type { EntityId } from '@true-nib/core/kind';
import { EntityMap, newPage, ofKind, roughsOf, type Entity, type Page } from '@true-nib/core/page';
import { pack } from '@true-nib/core/wire';
import { transfer } from 'comlink';
import { decodable, type PictureBytes } from '../render';
import { httpTransport } from '../session';
import type { DeliveredPicture, PageOrder } from './deliver.worker';

/** A page that is delivered: as it stands on the board, or as the server has it. */
export interface DeliveredPage {
  readonly title: string;
  readonly page: Page;
  readonly bytes: PictureBytes;
}

/** A page that is not open, as it was saved. */
export async function savedPage(id: string): Promise<DeliveredPage> {
  const { card, entities } = await httpTransport.load(id);
  const { name, width, height, ppi } = card;
  const page = { ...newPage({ width, height, ppi }), entities: EntityMap.of(entities) };
  return { title: name, page, bytes: (blob) => httpTransport.blob(blob) };
}

/** A page on which some layers alone are seen, of those that are. */
export function onLayers(page: Page, layerIds: ReadonlySet<EntityId>): Page {
  const entities = [...page.entities].map((entity): Entity =>
    entity.kind === 'layer' && entity.medium !== 'group' && !layerIds.has(entity.id)
      ? { ...entity, hidden: true }
      : entity,
  );
  return { ...page, entities: EntityMap.of(entities) };
}

/** All that a worker needs to make files of a page; pictures of roughs go along where they are wanted. */
export async function orderFor({ title, page, bytes }: DeliveredPage, withRough: boolean): Promise<PageOrder> {
  const roughs = withRough ? roughsOf(page) : { under: [], over: [] };
  const pictures: DeliveredPicture[] = await Promise.all(
    [...roughs.under, ...roughs.over]
      .flatMap((rough) => rough.pictures)
      .map(async (picture) => ({ picture, source: await decodable(await bytes(picture.blob)) })),
  );
  const washes = await Promise.all(
    [...new Set(ofKind(page, 'wash').map(({ blob }) => blob))].map(
      async (blob) => [blob, await (await bytes(blob)).arrayBuffer()] as const,
    ),
  );
  const entities = pack([...page.entities].filter(({ kind }) => kind !== 'samples'));
  return { title, size: page.size, entities, pictures, washes };
}

/** An order that is given away. */
export const handedOver = (order: PageOrder): PageOrder => transfer(order, [order.entities.buffer as ArrayBuffer]);
