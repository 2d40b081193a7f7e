import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import type { Board } from '../board';
import { say, role } from '../look';
import { BoardPicture, HARD_EDGE, type BoardCanvases, type StartedInks } from '../render';
import { type PageSession } from '../session';
import { washingSlot } from '../wash';
import { coveredByBench, rememberBoard } from './boardSize';
import { takeFirstPicture } from './firstPicture';
import { openBoard, type OpenedBoard } from './openBoard';
import { useDropPicture } from './useDropPicture';
import type { OpenedPage } from './usePageSession';

interface BoardCanvasProps extends OpenedPage {
  readonly onOpen: (board: Board | undefined) => void;
}

const LAYERS = ['under', 'sets', 'ink', 'live', 'over', 'veil', 'grids', 'guides', 'overlay'] as const;

/** The canvases of the board, put together with the session and the hand when they are in the document. */
export function BoardCanvas({ session, inks, onOpen }: BoardCanvasProps) {
  const ground = useRef<HTMLDivElement>(null);
  useEffect(
    () => (ground.current ? runBoard(ground.current, { session, inks, onOpen }) : undefined),
    [session, inks, onOpen],
  );
  useDropPicture(ground, session);
  return (
    <View className="absolute inset-0 overflow-hidden">
      <div
        ref={ground}
        role="img"
        aria-label={`${session.card.name}: the page. Draw with a pen, a mouse or a finger; two fingers or the wheel move it.`}
        data-testid="board"
        style={{
          position: 'absolute',
          inset: 0,
          touchAction: 'none',
          userSelect: 'none',
          cursor: 'crosshair',
          isolation: 'isolate',
        }}
      >
        <HardEdgeFilter />
        {LAYERS.map((name) => (
          <canvas
            key={name}
            data-layer={name}
            style={{
              position: 'absolute',
              left: 0,
              top: 0,
              width: '100%',
              height: '100%',
              transformOrigin: '0 0',
              mixBlendMode: name === 'over' ? 'multiply' : undefined,
            }}
          />
        ))}
      </div>
    </View>
  );
}

function HardEdgeFilter() {
  return (
    <svg width="0" height="0" aria-hidden style={{ position: 'absolute' }}>
      <filter id={HARD_EDGE} colorInterpolationFilters="sRGB">
        <feComponentTransfer>
          <feFuncA type="discrete" tableValues="0 1" />
        </feComponentTransfer>
      </filter>
    </svg>
  );
}

/** Opens the board on its ground and keeps it up to date with the page and the window; answers how to close it. */
function runBoard(ground: HTMLElement, { session, inks, onOpen }: BoardCanvasProps): () => void {
  const opened = open(ground, session, inks);
  const { board } = opened;
  const { picture } = board;
  const resize = () => {
    const extent = { width: ground.clientWidth, height: ground.clientHeight };
    rememberBoard(extent);
    picture.resize(extent, coveredByBench());
  };
  picture.inks.onRest((isResting) => {
    ground.setAttribute('aria-busy', String(!isResting));
    if (isResting) delete ground.dataset.isFirst;
  });
  const watcher = new ResizeObserver(resize);
  watcher.observe(ground);
  resize();
  board.hand.show(picture.view);
  takeFirstPicture((small) => {
    if (picture.inks.showFirst(small, session.card.width)) ground.dataset.isFirst = '';
  });
  const stopEdits = session.onEdits((page, edits) => picture.edit(page, edits));
  const stopNotices = session.onNotice(say);
  const theme = window.matchMedia('(prefers-color-scheme: dark)');
  const repaint = () => picture.repaintColours();
  theme.addEventListener('change', repaint);
  let isOpen = true;
  // What is written on the board is written anew once its letters have come.
  void document.fonts.ready.then(() => isOpen && repaint());
  board.of(washingSlot).takeUp(session.takeLeftMarks());
  onOpen(board);
  return () => {
    isOpen = false;
    onOpen(undefined);
    stopEdits();
    stopNotices();
    theme.removeEventListener('change', repaint);
    watcher.disconnect();
    opened.close();
  };
}

function open(ground: HTMLElement, session: PageSession, inks: StartedInks | undefined): OpenedBoard {
  const layer = (name: (typeof LAYERS)[number]): HTMLCanvasElement => {
    const canvas = ground.querySelector<HTMLCanvasElement>(`canvas[data-layer="${name}"]`);
    if (!canvas) throw new Error('The board has lost one of its canvases.');
    return canvas;
  };
  const [under, sets, ink, live, over, veil, grids, guides, overlay] = LAYERS.map(layer);
  const canvases: BoardCanvases = { under, sets, ink, live, over, veil, grids, guides, overlay };
  const colours = () => ({
    seal: role('seal'),
    raised: role('raised'),
    desk: role('desk'),
    shadow: 'rgba(20, 22, 26, 0.35)',
  });
  const picture = new BoardPicture(canvases, session.page, {
    pictureBytes: (blob) => session.blob(blob),
    colours,
    onError: say,
    opened: inks && { inks, edits: session.unsentEdits },
  });
  return openBoard(ground, session, picture);
}
