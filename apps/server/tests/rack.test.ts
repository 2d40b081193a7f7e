import request from 'supertest';
import { SHIPPED_NIBS, type RackNib } from '@true-nib/core/rack';
import { startService, type Service } from './service';

let service: Service;
beforeEach(async () => {
  service = await startService();
});
afterEach(() => service.close());
const api = () => request(service.app);
const put = (since: number, nibs: unknown) => api().put('/api/rack').send({ since, nibs });

describe('the nib rack', () => {
  it('is not there at first, and comes back as it was kept', async () => {
    await api().get('/api/rack').expect(200, { revision: 0, nibs: null });
    await put(0, SHIPPED_NIBS).expect(200);
    const { body } = await api().get('/api/rack');
    expect(body).toEqual({ revision: 1, nibs: JSON.parse(JSON.stringify(SHIPPED_NIBS)) });
  });

  it('answers with the other rack when that was kept meanwhile', async () => {
    await put(0, SHIPPED_NIBS).expect(200);
    const { body } = await put(0, SHIPPED_NIBS.slice(1)).expect(200);
    expect(body).toMatchObject({ isKept: false, revision: 1 });
    expect(body.nibs).toHaveLength(SHIPPED_NIBS.length);
  });

  it('is kept once when two send at the same time', async () => {
    const answers = await Promise.all([put(0, SHIPPED_NIBS), put(0, SHIPPED_NIBS.slice(2))]);
    expect(answers.map(({ body }) => body.isKept).sort()).toEqual([false, true]);
  });

  const broken = (change: object): RackNib[] => [{ ...SHIPPED_NIBS[0], ...change } as RackNib];
  it.each([
    ['no list', {}, /list of at least one nib/],
    ['an empty rack', [], /list of at least one nib/],
    ['a size of 0', broken({ nib: { ...SHIPPED_NIBS[0].nib, size: 0 } }), /"Fixed liner": "size" needs a number/],
    ['a size of a million', broken({ nib: { ...SHIPPED_NIBS[0].nib, size: 1e6 } }), /"size" needs a number/],
    ['an unknown calm', broken({ calm: { way: 'frozen' } }), /"way" is one of raw, even, tow, sprung/],
    ['the same nib twice', [SHIPPED_NIBS[0], SHIPPED_NIBS[0]], /same id/],
    ['too many', Array.from({ length: 501 }, (_, k) => ({ ...SHIPPED_NIBS[0], id: `n${k}` })), /at most 500/],
  ])('refuses %s, and says what is wrong', async (_name, nibs, reason) => {
    const { body } = await put(0, nibs).expect(400);
    expect(body.detail).toMatch(reason);
    await api().get('/api/rack').expect(200, { revision: 0, nibs: null });
  });

  it('refuses a revision that is no number', async () => {
    await api().put('/api/rack').send({ since: 'now', nibs: SHIPPED_NIBS }).expect(400);
  });
});
