import { plainName, slicesOf } from '@true-nib/core/formats';
import { spreadsOf, type Opening } from '@true-nib/core/page';
import { proxy, transfer } from 'comlink';
import { request } from '../api';
import type { Hired } from '../base';
import { fileName, isBilevel, isPicture, pxFor, scaleFor, type DeliverChoice } from './choice';
import type { DeliverService, PageOrder, PictureOrder } from './deliver.worker';
import { handedOver, orderFor, type DeliveredPage } from './pages';

/** A page that is fetched when its turn comes, so that never all of a folio is in memory. */
export interface PageToDeliver {
  readonly title: string;
  readonly size: { readonly width: number; readonly height: number };
  /** Where the artist wants slices to end, page px. */
  readonly cuts?: readonly number[];
  open(): Promise<DeliveredPage>;
}

/** Pages that become files. */
export interface Delivered {
  readonly title: string;
  readonly pages: readonly PageToDeliver[];
  readonly choice: DeliverChoice;
  /** How the folio is read, for spreads. */
  readonly opening: Opening;
}

export interface MadeFile {
  readonly name: string;
  readonly file: Blob;
}

/** What a maker tells, and is told. */
export interface Making {
  readonly worker: Hired<DeliverService>;
  /** Hears how much is made, 0..1. */
  readonly tell: (share: number) => void;
  readonly signal: AbortSignal;
}

/** Makes the file, or the ZIP of files, that pages are delivered as; nothing of no page. Once the worker was ended it never answers. */
export async function makeFiles(delivered: Delivered, making: Making): Promise<MadeFile | undefined> {
  const { pages, choice, title } = delivered;
  if (choice.as === 'pdf') return pdfOf(delivered, making);
  const many = pages.length > 1 || (isPicture(choice) && choice.isSliced);
  let last: MadeFile | undefined;
  for (const [k, page] of pages.entries()) {
    const own = { ...making, tell: (share: number) => making.tell((k + share) / pages.length) };
    const prefix = pages.length > 1 ? `${String(k + 1).padStart(3, '0')}-` : '';
    for await (const made of filesOf(page, choice, own)) {
      const { name, file } = (last = { ...made, name: `${prefix}${made.name}` });
      if (many) await making.worker.ask((service) => service.addToZip(name, file));
    }
  }
  if (!many || !last) return last;
  return { name: `${plainName(title)}.zip`, file: await making.worker.ask((service) => service.endZip()) };
}

/** The files that one page becomes, each by itself. */
export async function filesOfPage(delivered: Delivered, making: Making): Promise<readonly MadeFile[]> {
  const [page] = delivered.pages;
  if (delivered.choice.as === 'pdf') return [await pdfOf({ ...delivered, pages: [page] }, making)];
  const made: MadeFile[] = [];
  for await (const file of filesOf(page, delivered.choice, making)) made.push(file);
  return made;
}

/** The files that one page becomes, one after the other. */
async function* filesOf(
  page: PageToDeliver,
  choice: DeliverChoice,
  { worker, tell, signal }: Making,
): AsyncGenerator<MadeFile> {
  const { as, withRough, onPaper } = choice;
  const rough = withRough && !isBilevel(choice);
  const delivered = await page.open();
  const { size } = delivered.page;
  const px = isPicture(choice) ? pxFor(choice, size) : undefined;
  const order = await orderFor(delivered, rough);
  await worker.ask((service) => service.take(handedOver(order)));
  const named = (title: string, file: Blob): MadeFile => ({ name: fileName(title, as), file });
  if (as === 'svg') return yield named(page.title, await worker.ask((service) => service.svg(rough, onPaper)));
  if (as === 'ora')
    return yield named(page.title, await worker.ask((service) => service.ora(onPaper, rough, proxy(tell))));
  if (!px) return;
  const scale = scaleFor(choice, size);
  const slices = choice.isSliced
    ? slicesOf(delivered.page, { scale, highest: choice.highest, cuts: page.cuts ?? [] })
    : [undefined];
  for (const [k, slice] of slices.entries()) {
    const rows = slice && {
      top: Math.round(slice.top * scale),
      bottom: Math.min(px.height, Math.round(slice.bottom * scale)),
    };
    const picture: PictureOrder = {
      ...{ ...px, ppi: size.ppi * scale, isOneBit: isBilevel(choice), withRough: rough },
      onPaper: onPaper || as === 'jpeg',
      ...(rows && { rows }),
    };
    const own = proxy((share: number) => tell((k + 0.9 * share) / slices.length));
    const png = await worker.ask((service) => service.png(picture, own));
    const file = await converted(png, choice, size.ppi * scale, signal);
    const part = slice ? `-${String(k + 1).padStart(3, '0')}` : '';
    yield named(`${page.title}${part}`, file);
  }
}

/** A PNG as the format that is wanted: the server has writers for those that a browser has none for. */
async function converted(png: Blob, { as, quality }: DeliverChoice, ppi: number, signal: AbortSignal): Promise<Blob> {
  if (as === 'png') return png;
  const query = `ppi=${Number(ppi.toFixed(3))}${as === 'tiff' ? '' : `&quality=${quality}`}`;
  const answer = await request(`/conversions/${as}?${query}`, {
    ...{ method: 'POST', body: png, signal },
    headers: { 'content-type': 'image/png' },
  });
  return answer.blob();
}

/** All pages in one PDF, sheet by sheet. */
async function pdfOf({ title, pages, choice, opening }: Delivered, { worker, tell }: Making): Promise<MadeFile> {
  const { inSpreads, cropMarks, pureBlack, withRough, onPaper } = choice;
  const sheets = inSpreads
    ? spreadsOf(
        pages.map((page) => ({ page, ...page.size })),
        opening,
      ).map(({ left, right, across }) => [left, right, across].flatMap((one) => (one ? [one.page] : [])))
    : pages.map((page) => [page]);
  const options = { cropMarks, pureBlack, withRough, paper: onPaper, isSpread: inSpreads };
  for (const [k, sheet] of sheets.entries()) {
    tell(k / sheets.length);
    const orders: PageOrder[] = [];
    for (const page of sheet) orders.push(await orderFor(await page.open(), withRough));
    const handed = transfer(
      orders,
      orders.map(({ entities }) => entities.buffer as ArrayBuffer),
    );
    await worker.ask((service) => service.addToPdf(handed, title, options));
  }
  return { name: fileName(title, 'pdf'), file: await worker.ask((service) => service.endPdf()) };
}
