import { PACKED_TYPE } from '@true-nib/core/wire';
import fc from 'fast-check';
import request from 'supertest';
import { drawing, entitiesOf, folioWithPage, picture, sendChanges, start, startService, type Service } from './service';

let service: Service;
beforeEach(async () => {
  service = await startService();
});
afterEach(() => service.close());
const api = () => request(service.app);

it('says that it is well', async () => {
  await api().get('/api/health').expect(200, { status: 'ok', version: 'test' });
});

describe('folios', () => {
  it('are made, renamed, listed with their cover, deleted and put back', async () => {
    const { folioId, pageId } = await folioWithPage(service.app);
    await api().patch(`/api/folios/${folioId}`).send({ name: 'Night Ferry' }).expect(200);
    const { body } = await api().get('/api/folios').expect(200);
    expect(body.folios).toMatchObject([
      { id: folioId, name: 'Night Ferry', pageCount: 1, cover: { pageId, thumbnail: null } },
    ]);
    await api().delete(`/api/folios/${folioId}`).expect(204);
    expect((await api().get('/api/folios')).body.folios).toEqual([]);
    await api().get(`/api/folios/${folioId}`).expect(404);
    await api().post(`/api/folios/${folioId}/restore`).expect(200);
    expect((await api().get(`/api/folios/${folioId}`)).body.pages).toHaveLength(1);
  });

  it('are duplicated with all their pages', async () => {
    const { folioId, pageId } = await folioWithPage(service.app);
    await sendChanges(service.app, pageId, 0, [start(), drawing('a')]).expect(200);
    const copy = await api().post(`/api/folios/${folioId}/duplicate`).expect(201);
    const { pages } = (await api().get(`/api/folios/${copy.body.id}`)).body;
    expect(pages).toMatchObject([{ name: 'Quay', revision: 2 }]);
    expect(await entitiesOf(service.app, pages[0].id)).toEqual(await entitiesOf(service.app, pageId));
  });
});

describe('the pages of a folio', () => {
  const names = async (folioId: string): Promise<string[]> =>
    (await api().get(`/api/folios/${folioId}`)).body.pages.map(({ name }: { name: string }) => name);
  async function folioOf(...all: readonly string[]) {
    const { folioId, pageId } = await folioWithPage(service.app);
    const ids = [pageId];
    for (const name of all.slice(1))
      ids.push((await api().post('/api/pages').send({ folioId, name, width: 800, height: 600, ppi: 72 })).body.id);
    return { folioId, ids };
  }
  const place = (id: string, to: unknown) => api().patch(`/api/pages/${id}`).send({ place: to });

  it('are put at other places, and those of deleted ones are kept', async () => {
    const { folioId, ids } = await folioOf('Quay', 'Stair', 'Heron', 'Mask');
    await place(ids[3], 1).expect(200);
    expect(await names(folioId)).toEqual(['Mask', 'Quay', 'Stair', 'Heron']);
    await place(ids[3], 3).expect(200);
    expect(await names(folioId)).toEqual(['Quay', 'Stair', 'Mask', 'Heron']);
    await place(ids[0], 99).expect(200);
    expect(await names(folioId)).toEqual(['Stair', 'Mask', 'Heron', 'Quay']);
    await api().delete(`/api/pages/${ids[3]}`).expect(204);
    await place(ids[2], 2).expect(200);
    await place(ids[0], 2).expect(200);
    expect(await names(folioId)).toEqual(['Stair', 'Quay', 'Heron']);
    await api().post(`/api/pages/${ids[3]}/restore`).expect(200);
    expect((await names(folioId)).sort()).toEqual(['Heron', 'Mask', 'Quay', 'Stair']);
  });

  it('come in the order that moving one after the other in a list gives', async () => {
    const { folioId, ids } = await folioOf('Quay', 'a', 'b', 'c', 'd');
    const list = await names(folioId);
    const byId = new Map(ids.map((id, k) => [id, list[k]]));
    let expected = [...ids];
    for (const [k, to] of [
      ...[
        [0, 5],
        [2, 1],
        [4, 2],
        [1, 3],
        [3, 3],
        [0, 1],
        [4, 4],
        [2, 5],
      ],
    ]) {
      await place(ids[k], to).expect(200);
      expected = expected.filter((id) => id !== ids[k]);
      expected.splice(to - 1, 0, ids[k]);
      expect(await names(folioId)).toEqual(expected.map((id) => byId.get(id)));
    }
  });

  it.each([0, -1, 1.5, 'first', null])('have no place %p', async (to) => {
    const { ids } = await folioOf('Quay');
    await place(ids[0], to).expect(400);
  });

  it('are read as their folio is, from when that is said', async () => {
    const { folioId, pageId } = await folioWithPage(service.app);
    expect((await api().get(`/api/folios/${folioId}`)).body).toMatchObject({
      reads: 'left to right',
      firstAlone: true,
    });
    await api().patch(`/api/folios/${folioId}`).send({ reads: 'right to left', firstAlone: false }).expect(200);
    const page = { folioId, name: 'Stair', width: 800, height: 600, ppi: 72 };
    const { id } = (await api().post('/api/pages').send(page).expect(201)).body;
    expect((await entitiesOf(service.app, id)).get('sheet')).toMatchObject({ reads: 'right to left' });
    expect((await entitiesOf(service.app, pageId)).size).toBe(0);
    const copy = (await api().post(`/api/folios/${folioId}/duplicate`).expect(201)).body;
    expect(copy).toMatchObject({ reads: 'right to left', firstAlone: false });
    await api().patch(`/api/folios/${folioId}`).send({ reads: 'upwards' }).expect(400);
  });
});

describe('pages', () => {
  it('stand in the order in which they were made', async () => {
    const { folioId } = await folioWithPage(service.app);
    for (const name of ['Stair', 'Heron'])
      await api().post('/api/pages').send({ folioId, name, width: 800, height: 600, ppi: 72 }).expect(201);
    const { pages } = (await api().get(`/api/folios/${folioId}`)).body;
    expect(pages.map(({ name }: { name: string }) => name)).toEqual(['Quay', 'Stair', 'Heron']);
    expect((await api().get('/api/pages')).body.pages).toHaveLength(3);
  });

  it('are renamed, deleted and put back', async () => {
    const { pageId } = await folioWithPage(service.app);
    expect((await api().patch(`/api/pages/${pageId}`).send({ name: 'Low tide' })).body.name).toBe('Low tide');
    await api().delete(`/api/pages/${pageId}`).expect(204);
    await api().get(`/api/pages/${pageId}`).expect(404);
    await api().post(`/api/pages/${pageId}/restore`).expect(200);
    await api().get(`/api/pages/${pageId}`).expect(200);
  });

  it('are duplicated with their whole journal, so that undo works in the copy', async () => {
    const { pageId } = await folioWithPage(service.app);
    await sendChanges(service.app, pageId, 0, [start(), drawing('a')]).expect(200);
    const { body } = await api().post(`/api/pages/${pageId}/duplicate`).expect(201);
    expect(body).toMatchObject({ name: 'Quay copy', revision: 2 });
    expect((await api().get(`/api/pages/${body.id}/changes?only=headers`)).body.changes).toHaveLength(2);
    await sendChanges(service.app, body.id, 2, [drawing('b')]).expect(200);
    expect((await entitiesOf(service.app, pageId)).has('b')).toBe(false);
  });

  it.each([
    ['5 m by 5 m', { width: 59_055, height: 59_055, ppi: 300 }, /too large/],
    ['a negative size', { width: -5, height: 100, ppi: 300 }, /width/],
    ['words for numbers', { width: 'wide', height: 100, ppi: 300 }, /width/],
    ['no ppi', { width: 100, height: 100 }, /ppi/],
  ])('of %s are refused, and nothing is made', async (_what, size, detail) => {
    const { folioId } = await folioWithPage(service.app);
    const { body } = await api()
      .post('/api/pages')
      .send({ folioId, name: 'No', ...size })
      .expect(400)
      .expect('content-type', /problem\+json/);
    expect(body.detail).toMatch(detail);
    expect((await api().get(`/api/folios/${folioId}`)).body.pages).toHaveLength(1);
  });

  it('need a folio that is there, and a name', async () => {
    const { folioId } = await folioWithPage(service.app);
    await api()
      .post('/api/pages')
      .send({ folioId: 'nowhere', name: 'No', width: 100, height: 100, ppi: 72 })
      .expect(404);
    await api().post('/api/pages').send({ folioId, name: '', width: 100, height: 100, ppi: 72 }).expect(400);
    await api()
      .post('/api/folios')
      .send({ name: 'x'.repeat(121) })
      .expect(400);
    await api().post('/api/folios').send([]).expect(400);
  });
});

describe('a page that is asked for twice', () => {
  const id = '3b241101-e2bb-4255-8caf-4136c566a962';

  it('under one id is one page; under the id of another it is refused', async () => {
    const { folioId } = await folioWithPage(service.app);
    const page = { folioId, name: 'Stair', width: 800, height: 600, ppi: 72, id };
    const first = await api().post('/api/pages').send(page).expect(201);
    const second = await api().post('/api/pages').send(page).expect(200);
    expect(second.body).toEqual(first.body);
    const both = await Promise.all([1, 2].map(() => api().post('/api/pages').send(page)));
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    const { body } = await api()
      .post('/api/pages')
      .send({ ...page, name: 'Heron' })
      .expect(409);
    expect(body.detail).toMatch(/taken/);
    expect((await api().get(`/api/folios/${folioId}`)).body.pages).toHaveLength(2);
  });
});

describe('names', () => {
  it.each([
    ['control characters alone', '\u0007\u0000', 400],
    ['a control character in it', 'Quay\u0000', 400],
    ['nothing to be read', ' \u200b ', 400],
    ['one sign', '★', 201],
    ['another script', '渡し', 201],
  ])('with %s', async (_what, name, status) => {
    await api().post('/api/folios').send({ name }).expect(status);
    const { folioId, pageId } = await folioWithPage(service.app);
    const size = { width: 100, height: 100, ppi: 72 };
    await api()
      .post('/api/pages')
      .send({ folioId, name, ...size })
      .expect(status);
    await api()
      .patch(`/api/pages/${pageId}`)
      .send({ name })
      .expect(status === 201 ? 200 : status);
  });
});

describe('thumbnails', () => {
  it('belong to a revision; an older one never replaces a newer one', async () => {
    const { pageId } = await folioWithPage(service.app);
    await sendChanges(service.app, pageId, 0, [start(), drawing('a')]).expect(200);
    const [old, fresh] = await Promise.all([picture(10, 15).webp().toBuffer(), picture(20, 30).webp().toBuffer()]);
    const put = (revision: number, bytes: Buffer) =>
      api().put(`/api/pages/${pageId}/thumbnail?revision=${revision}`).set('content-type', 'image/webp').send(bytes);
    await api().get(`/api/pages/${pageId}/thumbnail`).expect(204);
    await put(2, fresh).expect(204);
    await put(1, old).expect(204);
    const shown = await api().get(`/api/pages/${pageId}/thumbnail`).expect(200).expect('etag', '"2"');
    expect(Buffer.compare(shown.body, fresh)).toBe(0);
    await put(3, fresh).expect(400);
    await put(2, Buffer.from('not a picture')).expect(415);
  });
});

describe('the door', () => {
  it('answers unknown addresses with a problem, not with a page', async () => {
    const { body } = await api()
      .get('/api/nothing')
      .expect(404)
      .expect('content-type', /problem\+json/);
    expect(body).toMatchObject({ status: 404, title: 'There is nothing at this address' });
    await api().get('/api/pages/no-such-page').expect(404);
    await api().get('/api/pages/no-such-page/thumbnail').expect(404);
  });

  it.each([
    ['/api/pages/a%00b', 400],
    ['/api/pages/%zz', 400],
    ['/api/pages/x/changes?since=%00', 400],
    ['/api/pages/x/changes?since=-1', 400],
    ['/api/pages/x/changes?since=1&since=2', 400],
    ['/api/blobs/%E0%A4%A', 400],
    ['/page/%zz', 400],
    ['/page/a%00b', 400],
    ['/%', 400],
    [`/api/pages/${'x'.repeat(300)}`, 400],
  ])('says of an address that cannot be read that it cannot: %s', async (address, status) => {
    await api()
      .get(address)
      .expect(status)
      .expect('content-type', /problem\+json/);
  });

  it('answers nothing that is asked of it with an error of its own', async () => {
    const { folioId, pageId } = await folioWithPage(service.app);
    const odd = fc.oneof(
      fc.constantFrom(
        folioId,
        pageId,
        'demo',
        '..',
        '%00',
        '%zz',
        '%F0%9F%AA%A2',
        "'; DROP TABLE pages; --",
        '9'.repeat(400),
      ),
      fc.string({ maxLength: 12 }).map(encodeURIComponent),
    );
    const address = fc.oneof(
      fc.tuple(
        fc.constantFrom('folios', 'pages', 'blobs', 'rack', 'templates', 'health', '__proto__'),
        fc.array(odd, { maxLength: 2 }),
      ),
      fc.tuple(
        fc.constantFrom(`pages/${pageId}`, `folios/${folioId}`),
        fc.array(
          fc.constantFrom(
            'changes',
            'thumbnail',
            'restore',
            'duplicate',
            'changes?since=9e9',
            'thumbnail?revision=1e400',
          ),
          { maxLength: 1 },
        ),
      ),
    );
    const query = fc.constantFrom(
      '',
      '?since=1e99',
      '?since[]=1&lastId=%00',
      '?only=headers&since=x',
      '?form=packed',
      '?__proto__[a]=1',
    );
    const body = fc.oneof(
      fc.jsonValue({ maxDepth: 2 }).map((value) => JSON.stringify(value)),
      fc
        .record(
          {
            name: fc.string(),
            folioId: fc.string(),
            width: fc.double(),
            height: fc.maxSafeInteger(),
            ppi: fc.double(),
            id: fc.uuid(),
          },
          { requiredKeys: [] },
        )
        .map((value) => JSON.stringify(value)),
      fc
        .record({
          since: fc.oneof(fc.integer(), fc.constant(1e300)),
          changes: fc.array(fc.jsonValue({ maxDepth: 2 })),
          nibs: fc.jsonValue(),
          rings: fc.jsonValue(),
        })
        .map((value) => JSON.stringify(value)),
      fc.string(),
    );
    const type = fc.constantFrom('application/json', PACKED_TYPE, 'image/png', 'text/plain', 'nonsense');
    const method = fc.constantFrom('get', 'post', 'put', 'patch', 'delete');
    await fc.assert(
      fc.asyncProperty(method, address, query, body, type, async (verb, [room, rest], asked, sent, contentType) => {
        const path = `/api/${[room, ...rest].join('/')}${asked}`;
        const answer = await (verb === 'get'
          ? api().get(path)
          : api()[verb](path).set('content-type', contentType).send(sent));
        if (answer.status >= 500) throw new Error(`${verb} ${path} with ${sent} answers ${answer.status}`);
      }),
      { numRuns: 300 },
    );
  });

  it('keeps other web pages out', async () => {
    await api().get('/api/folios').set('host', 'evil.example').expect(403);
    await api().post('/api/folios').set('origin', 'https://evil.example').send({ name: 'x' }).expect(403);
    expect((await api().get('/api/folios')).body.folios).toEqual([]);
  });

  it('says what is wrong with a body that cannot be read', async () => {
    const { body } = await api()
      .post('/api/folios')
      .set('content-type', 'application/json')
      .send('{"name":')
      .expect(400);
    expect(body.title).toBe('The request cannot be read');
    expect(JSON.stringify(body)).not.toContain('/work');
  });
});
