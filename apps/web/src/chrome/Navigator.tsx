import { apply, boxOfPoints, invert, type Point } from '@true-nib/core/math';
import type { PageSize } from '@true-nib/core/page';
import { useEffect, useRef } from 'react';
import { isTall, panned, toScreen, type BoardPicture } from '../render';
import { useBoard, useDesk } from '../board';

const HEIGHT = 260;
const REST_MS = 900;

/** The whole of a tall page, small, with the part in view; dragged, it moves the page. */
export function Navigator() {
  const { session } = useBoard();
  const isWanted = useDesk((desk) => desk.navigator);
  return isWanted && isTall(session.page.size) ? <SmallPage size={session.page.size} /> : null;
}

function SmallPage({ size }: { readonly size: PageSize }) {
  const { session, picture, hand } = useBoard();
  const width = Math.max(24, Math.round((HEIGHT * size.width) / size.height));
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const follow = () => frame.current && layFrame(frame.current.style, picture, width / size.width, width);
    const paint = async () => {
      const small = await picture.thumbnail(width * 2);
      const context = canvas.current?.getContext('2d');
      if (!small || !context) return;
      const bitmap = await createImageBitmap(small);
      context.drawImage(bitmap, 0, 0, context.canvas.width, context.canvas.height);
      bitmap.close();
    };
    const paintSoon = () => {
      clearTimeout(timer);
      timer = setTimeout(() => void paint(), REST_MS);
    };
    follow();
    timer = setTimeout(() => void paint(), 100);
    const stops = [picture.onView(follow), session.onPage(paintSoon)];
    return () => {
      clearTimeout(timer);
      stops.forEach((stop) => stop());
    };
  }, [picture, session, size, width]);
  const goTo = (event: React.PointerEvent<HTMLDivElement>) => {
    if (event.buttons === 0) return;
    const bounds = event.currentTarget.getBoundingClientRect();
    const wanted: Point = {
      x: ((event.clientX - bounds.left) / width) * size.width,
      y: ((event.clientY - bounds.top) / HEIGHT) * size.height,
    };
    const now = toScreen(picture.view, wanted);
    hand.show(panned(picture.view, picture.free.width / 2 - now.x, picture.free.height / 2 - now.y));
  };
  return (
    <div
      role="img"
      aria-label="The whole page, small. Drag to move to a part of it; the arrow keys do the same."
      data-testid="navigator"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        goTo(event);
      }}
      onPointerMove={goTo}
      style={{
        position: 'absolute',
        right: 10,
        top: 10,
        width,
        height: HEIGHT,
        touchAction: 'none',
        cursor: 'pointer',
        background: '#ffffff',
        border: '1px solid var(--edge)',
        borderRadius: 4,
        overflow: 'hidden',
      }}
    >
      <canvas ref={canvas} width={width * 2} height={HEIGHT * 2} style={{ width: '100%', height: '100%' }} />
      <div
        ref={frame}
        style={{ position: 'absolute', border: '2px solid var(--seal)', borderRadius: 3, boxSizing: 'border-box' }}
      />
    </div>
  );
}

/** Lays the frame over what is in view; `scale` is CSS px of the small page, `width` wide, per page px. */
function layFrame(style: CSSStyleDeclaration, picture: BoardPicture, scale: number, width: number): void {
  const back = invert(picture.view);
  const { width: across, height: down } = picture.free;
  const corners = [
    [0, 0],
    [across, 0],
    [across, down],
    [0, down],
  ].map(([x, y]) => apply(back, { x, y }));
  const { minX, minY, maxX, maxY } = boxOfPoints(corners);
  const [left, top] = [Math.max(0, minX * scale), Math.max(0, minY * scale)];
  style.left = `${left}px`;
  style.top = `${top}px`;
  style.width = `${Math.min(width, maxX * scale) - left}px`;
  style.height = `${Math.min(HEIGHT, maxY * scale) - top}px`;
}
