import request from 'supertest';
import { TEMPLATES, templateToJson } from '@true-nib/core/templates';
import { startService, type Service } from './service';

let service: Service;
beforeEach(async () => {
  service = await startService();
});
afterEach(() => service.close());
const api = () => request(service.app);
const { name, rings } = templateToJson(TEMPLATES[0]);
const put = (id: string, body: object = { name, rings }) => api().put(`/api/templates/${id}`).send(body);

describe('templates of one’s own', () => {
  it('are kept, renamed and deleted one by one', async () => {
    await api().get('/api/templates').expect(200, []);
    await put('own-1').expect(200);
    await put('own-2', { name: 'Leaf', rings }).expect(200);
    await put('own-1', { name: 'Ring', rings }).expect(200);
    const { body } = await api().get('/api/templates').expect(200);
    expect(body.map((one: { name: string }) => one.name)).toEqual(['Ring', 'Leaf']);
    expect(body[1].rings[0].points).toHaveLength(TEMPLATES[0].rings[0].points.length);
    await api().delete('/api/templates/own-1').expect(204);
    await api().delete('/api/templates/own-1').expect(204);
    expect((await api().get('/api/templates')).body).toHaveLength(1);
  });

  it.each([
    ['no outlines', { name, rings: [] }, /at least one outline/],
    ['outlines that are none', { name, rings: [{ points: [1, 2], closed: true }] }, /3n \+ 1 triples/],
    ['no name', { rings }, /name/],
    ['no body', {}, /name|rings/],
  ])('are refused with %s, and say why', async (_name, body, reason) => {
    const answer = await put('own-1', body).expect(400);
    expect(JSON.stringify(answer.body)).toMatch(reason);
    await api().get('/api/templates').expect(200, []);
  });

  it('are 500 at most: one more is refused, one of them can still be changed', async () => {
    const all = Array.from({ length: 500 }, (_, k) => ({ id: `own-${k}`, body: JSON.stringify({ id: `own-${k}` }) }));
    await service.store.atomically(({ templates, within }) => templates.bulkCreate(all, within));
    const { body } = await put('one-more').expect(409);
    expect(body.detail).toMatch(/500 templates/);
    await put('own-7').expect(200);
    expect((await api().get('/api/templates')).body).toHaveLength(500);
  });

  it('have ids of letters and digits', async () => {
    await put('a b').expect(400);
  });
});
