import { readFileSync } from 'node:fs';
import { addLetters, letteringOn, newBalloon, writtenAsText, writtenOn } from '@true-nib/core/comic';
import { FONT_TYPE, textOfRuns, type LetterStyle } from '@true-nib/core/lettering';
import { applyChange, checkEntity, draftChange, newPage, EntityMap, type Change, type Page } from '@true-nib/core/page';
import { readFont, textInBody } from '@true-nib/core/typeset';
import { fromJson } from '@true-nib/core/wire';
import request from 'supertest';
import { sha256Of } from '../src/keeping/blobs';
import { folioWithPage, putBlob, sendChanges, startService, type Service } from './service';

const bytes = readFileSync(require.resolve('@expo-google-fonts/comic-neue/400Regular/ComicNeue_400Regular.ttf'));
const fonts = { plain: readFont(bytes) };
const style: LetterStyle = {
  fonts: { plain: { sha256: sha256Of(bytes), name: 'Comic' } },
  ...{ size: 40, leading: 1.15, tracking: 0, align: 'middle', capitals: true, color: '#14161a' },
};
const SIZE = { width: 2000, height: 3000, ppi: 300 };

let service: Service;
beforeEach(async () => {
  service = await startService();
});
afterEach(() => service.close());
const api = () => request(service.app);

/** What a page is lettered with, as a change. */
function lettering(id: string, ...says: readonly string[]): Change {
  let count = 0;
  const letters = says.map((text, k) => {
    const at = { x: 500, y: 400 + 500 * k };
    const made = textInBody({ runs: [{ text }], style }, fonts, { shape: 'oval', air: 20, at });
    return { balloon: newBalloon(made.body, 'pointed', 300), texts: [made.text] };
  });
  return { ...addLetters(newPage(SIZE), letters, 'Letter', () => `${id}-${++count}`), id, by: 'me' };
}

/** A folio of two pages that are lettered. */
async function folio() {
  const { folioId, pageId } = await folioWithPage(service.app);
  const second = (
    await api()
      .post('/api/pages')
      .send({ folioId, name: 'Stair', ...SIZE })
  ).body.id as string;
  await putBlob(service.app, bytes, FONT_TYPE);
  await sendChanges(service.app, pageId, 0, [lettering('one', 'The ferry is late.', 'No other.')]).expect(200);
  await sendChanges(service.app, second, 0, [lettering('two', 'Ferry! ferry!')]).expect(200);
  return { folioId, pages: [pageId, second] };
}

async function pageOf(id: string): Promise<Page> {
  const { entities } = (await api().get(`/api/pages/${id}`).expect(200)).body;
  return { size: SIZE, entities: EntityMap.of(entities.map((one: unknown) => checkEntity(fromJson(one)))) };
}
const says = async (id: string) => letteringOn(await pageOf(id)).map(({ runs }) => textOfRuns(runs));

const replace = (folioId: string, body: object) =>
  api()
    .post(`/api/folios/${folioId}/lettering/replace`)
    .send({ by: 'me', ...body });

describe('the words of a folio', () => {
  it('are listed as they are read, and are had as a text file', async () => {
    const { folioId, pages } = await folio();
    const { body } = await api().get(`/api/folios/${folioId}/lettering`).expect(200);
    expect(body.pages).toMatchObject([
      { id: pages[0], texts: [{ voice: 'speech', runs: [{ text: 'The ferry is late.' }] }, { panel: 0 }] },
      { id: pages[1], texts: [{ runs: [{ text: 'Ferry! ferry!' }] }] },
    ]);
    const file = await api()
      .get(`/api/folios/${folioId}/lettering.txt`)
      .expect(200)
      .expect('content-type', /text\/plain/);
    expect(file.text).toBe(
      writtenAsText([
        { name: 'Quay', written: writtenOn(await pageOf(pages[0])) },
        { name: 'Stair', written: writtenOn(await pageOf(pages[1])) },
      ]),
    );
  });

  it('are replaced on all pages, one change each, and taken back', async () => {
    const { folioId, pages } = await folio();
    const before = await Promise.all(pages.map(pageOf));
    const { body } = await replace(folioId, { words: 'ferry', other: 'paddle steamer' }).expect(200);
    expect(body).toMatchObject({ count: 3, locked: 0, tight: [], missing: [] });
    expect(await says(pages[0])).toEqual(['The paddle steamer is late.', 'No other.']);
    expect(await says(pages[1])).toEqual(['paddle steamer! paddle steamer!']);
    const { changes } = (await api().get(`/api/pages/${pages[0]}/changes?only=headers`)).body;
    expect(changes.at(-1)).toMatchObject({ label: 'Replace words', by: 'me' });
    await api()
      .post(`/api/folios/${folioId}/lettering/take-back`)
      .send({ by: 'me', changes: body.changes })
      .expect(200, { left: 0 });
    for (const [k, id] of pages.entries()) expect([...(await pageOf(id)).entities]).toEqual([...before[k].entities]);
  });

  it('that were changed since are left as they are when replacing is taken back', async () => {
    const { folioId, pages } = await folio();
    const { changes } = (await replace(folioId, { words: 'ferry', other: 'boat' })).body;
    const page = await pageOf(pages[0]);
    const [text] = letteringOn(page);
    const after = { ...text, runs: [{ text: 'Something else' }] };
    const own = { ...draftChange('Text', [{ before: text, after }]), id: 'own', by: 'me' };
    applyChange(page, own);
    await sendChanges(service.app, pages[0], 2, [own]).expect(200);
    await api().post(`/api/folios/${folioId}/lettering/take-back`).send({ by: 'me', changes }).expect(200, { left: 1 });
    expect((await says(pages[0]))[0]).toBe('Something else');
    expect(await says(pages[1])).toEqual(['Ferry! ferry!']);
  });

  it('are replaced on all pages or on none', async () => {
    const { folioId, pages } = await folio();
    // 40 × 500 letters and a little are more than one text may have.
    const long = Array.from({ length: 41 }, () => 'ferry').join(' ');
    await sendChanges(service.app, pages[1], 1, [lettering('three', long)]).expect(200);
    const { body } = await replace(folioId, { words: 'ferry', other: 'x'.repeat(499) }).expect(400);
    expect(body.detail).toMatch(/20,000 letters/);
    expect(await says(pages[0])).toEqual(['The ferry is late.', 'No other.']);
  });

  it.each([
    ['nothing to look for', { words: '', other: 'x' }],
    ['nothing to put there', { words: 'ferry' }],
    ['too many letters', { words: 'x'.repeat(501), other: '' }],
    ['nobody who asks', { words: 'ferry', other: 'x', by: undefined }],
  ])('are not replaced with %s', async (_what, body) => {
    const { folioId } = await folio();
    await replace(folioId, body).expect(400);
  });

  it('of a folio that is not there are not had', async () => {
    await api().get('/api/folios/nowhere/lettering').expect(404);
    await replace('nowhere', { words: 'a', other: 'b' }).expect(404);
  });
});
