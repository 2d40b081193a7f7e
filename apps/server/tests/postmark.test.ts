import { issuePostmarks, postmark } from '../../../packages/core/tests/postmark/postmark';
import { sha256Of } from '../src/keeping/blobs';
import {
  change,
  entitiesOf,
  folioWithPage,
  layer,
  picture,
  putBlob,
  sendChanges,
  startService,
  type Service,
} from './service';

// A kind that exists in tests alone: the journal knows it by its rows.
let service: Service;
let takeBack: () => void;
beforeAll(async () => {
  takeBack = issuePostmarks();
  service = await startService();
});
afterAll(async () => {
  takeBack();
  await service.close();
});

describe('a kind with a row in each table', () => {
  it('is kept by the journal, once its bytes are there', async () => {
    const { pageId } = await folioWithPage(service.app);
    const bytes = await picture().png().toBuffer();
    const mark = postmark({ blob: sha256Of(bytes) });
    const both = change([
      { before: null, after: layer },
      { before: null, after: mark },
    ]);
    await sendChanges(service.app, pageId, 0, [both])
      .expect(400)
      .expect(/missing/);
    await putBlob(service.app, bytes, 'image/png').expect(201);
    await sendChanges(service.app, pageId, 0, [both]).expect(200);
    expect((await entitiesOf(service.app, pageId)).get('mark')).toMatchObject({ kind: 'postmark', town: 'Saltmarsh' });
  });
});
