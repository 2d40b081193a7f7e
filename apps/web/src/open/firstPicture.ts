/** By this name it lies in the page's HTML where the page is what is opened first; the server puts it there. */
const ID = 'first-picture';

/** What stands in for the page that is being opened. */
let standIn: HTMLImageElement | undefined;

/** Lets the shelf's picture of a page stand in for it until its board can be seen. Answers how to take it away. */
export function layFirstPicture(pageId: string): () => void {
  const laid = document.getElementById(ID);
  const picture = laid instanceof HTMLImageElement ? laid : fetched(pageId);
  standIn = picture;
  return () => {
    if (standIn === picture) standIn = undefined;
    picture.remove();
  };
}

/** Takes away what stands in for a page, to be shown by its board; nothing comes where the shelf had no picture. */
export function takeFirstPicture(show: (picture: HTMLCanvasElement) => void): void {
  const picture = standIn;
  standIn = undefined;
  picture?.remove();
  if (picture?.complete) give(picture, show);
  else picture?.addEventListener('load', () => give(picture, show), { once: true });
}

function fetched(pageId: string): HTMLImageElement {
  const picture = document.createElement('img');
  // One that is missing would be seen as a broken one.
  picture.addEventListener('load', () => standIn === picture && document.body.append(picture), { once: true });
  return Object.assign(picture, { id: ID, alt: '', src: `/api/pages/${encodeURIComponent(pageId)}/thumbnail` });
}

function give(picture: HTMLImageElement, show: (picture: HTMLCanvasElement) => void): void {
  const canvas = document.createElement('canvas');
  Object.assign(canvas, { width: picture.naturalWidth, height: picture.naturalHeight });
  if (canvas.width === 0) return;
  canvas.getContext('2d')?.drawImage(picture, 0, 0);
  show(canvas);
}
