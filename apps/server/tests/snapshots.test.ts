import { seededRandom } from '@true-nib/core/math';
import { checkParts, entitiesIn, unpack } from '@true-nib/core/wire';
import { packSamples } from '@true-nib/core/hand';
import type { Change, Entity } from '@true-nib/core/page';
import request from 'supertest';
import { dropEntities } from '../src/keeping/rows';
import { Snapshots } from '../src/keeping/snapshots';
import {
  change,
  drawing,
  entitiesOf,
  folioWithPage,
  sendChanges,
  start,
  startService,
  stroke,
  type Service,
} from './service';

let service: Service;
let pageId: string;
let revision: number;
beforeEach(async () => {
  service = await startService();
  ({ pageId } = await folioWithPage(service.app));
  revision = 0;
});
afterEach(() => service.close());

const send = async (...changes: readonly Change[]) => {
  await sendChanges(service.app, pageId, revision, changes).expect(200);
  revision += changes.length;
};

/** Keeps every page, however small, and only when told to. */
const eager = () => new Snapshots(service.store, { worth: 1, rest: 2 ** 30 });

const opened = async (snapshots: Snapshots) => {
  const { page, packed } = await snapshots.open(pageId);
  return { revision: page.revision, entities: [...entitiesIn(checkParts(unpack(packed)))] };
};
const idsOf = (entities: Iterable<Entity>) => [...entities].map(({ id }) => id).sort();
const keptAt = async () => (await service.store.snapshots.findByPk(pageId))?.revision;

describe('a snapshot of a page', () => {
  it('with what has changed since is the page as it stands, whatever was drawn, moved and taken away', async () => {
    const random = seededRandom(5);
    const snapshots = eager();
    await send(start());
    const lying: { id: string; x: number }[] = [];
    for (let k = 0; k < 60; k++) {
      const at = Math.floor(random() * lying.length);
      const { id, x } = lying[at] ?? { id: '', x: 0 };
      const deed = lying.length < 8 ? 0 : random();
      if (deed < 0.5) {
        await send(drawing(`s${k}`, k));
        lying.push({ id: `s${k}`, x: k });
      } else if (deed < 0.75) {
        await send(change([{ before: stroke(id, x), after: stroke(id, x + 1) }]));
        lying[at] = { id, x: x + 1 };
      } else {
        await send(change([{ before: stroke(id, x), after: null }]));
        lying.splice(at, 1);
      }
      if (random() < 0.2) await snapshots.renew(pageId);
      const { entities, ...page } = await opened(snapshots);
      expect(page.revision).toBe(revision);
      expect(idsOf(entities)).toEqual([...(await entitiesOf(service.app, pageId)).keys()].sort());
      const strokes = entities.flatMap((entity) => (entity.kind === 'stroke' ? [entity] : []));
      expect(new Map(strokes.map((one) => [one.id, one.spine.points[0]]))).toEqual(
        new Map(lying.map((one) => [one.id, one.x])),
      );
    }
    expect(await keptAt()).toBeGreaterThan(0);
  });

  it('is what is sent while nothing changes, and is passed over where nearly all has changed', async () => {
    const snapshots = eager();
    await send(start(), drawing('a'), drawing('b'));
    await snapshots.renew(pageId);
    // Only a look inside tells which way the answer came.
    await service.store.atomically((inside) => dropEntities(inside, pageId, ['b']));
    expect(idsOf((await opened(snapshots)).entities)).toContain('b');
    await send(...Array.from({ length: 12 }, (_, k) => drawing(`n${k}`)));
    expect(idsOf((await opened(snapshots)).entities)).not.toContain('b');
  });

  it('is kept once a page rests, if the page is large or much has changed', async () => {
    const snapshots = new Snapshots(service.store, { worth: 20_000, rest: 0 });
    const random = seededRandom(1);
    const large = (id: string) =>
      change([
        {
          before: null,
          after: {
            kind: 'samples',
            id,
            packed: packSamples(
              Array.from({ length: 5_000 }, () => ({ x: random() * 900, y: random() * 900, pressure: random() })),
            ),
          },
        },
      ]);
    const rested = async () => {
      snapshots.renewSoon(pageId);
      // Works wait for each other: once this one is through, so is the one before it.
      await new Promise((resolve) => setTimeout(resolve, 0));
      await service.store.atomically(() => Promise.resolve());
      return keptAt();
    };
    await send(start());
    expect(await rested()).toBeUndefined();
    await send(large('h1'));
    expect(await rested()).toBe(2);
    await send(drawing('a'));
    expect(await rested()).toBe(2);
    await send(large('h2'));
    expect(await rested()).toBe(4);
  });

  it('goes with a copy of its page', async () => {
    await send(start(), drawing('a'));
    await eager().renew(pageId);
    const copy = await request(service.app).post(`/api/pages/${pageId}/duplicate`).expect(201);
    pageId = copy.body.id;
    expect(await keptAt()).toBe(2);
    expect(idsOf((await opened(eager())).entities)).toEqual(['a', 'a:hand', 'inks']);
  });
});
