import { twinEdits } from '@true-nib/core/tethers';
import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import { say } from '../look/notices';
import { role } from '../look/role';
import { BoardPicture, HARD_EDGE, type BoardCanvases } from '../render/boardPicture';
import { plainLook } from '../render/stackLook';
import type { StartedInks } from '../render/startedInks';
import { newId } from '../session/ids';
import type { PageSession } from '../session/pageSession';
import type { OpenBoard } from '../board/boardContext';
import { BoardHand } from '../hand/boardHand';
import { coveredByBench, rememberBoard } from './boardSize';
import { useDesk, type Desk } from '../board/desk';
import { setGuides, useGuides } from '../guiding/guideStore';
import { GuideTool } from '../stages/guides/guideTool';
import { setDepth } from '../guiding/depthStore';
import { DepthTool } from '../stages/depth/depthTool';
import { Selection } from '../select/selection';
import { takeFirstPicture } from './firstPicture';
import { forgetEnd } from '../hand/lastEnd';
import { MendTool } from '../stages/mend/mendTool';
import { PointTool } from '../stages/mend/pointTool';
import { PathTool } from '../stages/ink/pathTool';
import { useDropPicture } from './useDropPicture';
import type { OpenedPage } from './usePageSession';
import { Washing } from '../wash/washing';

interface BoardCanvasProps extends OpenedPage {
  readonly onOpen: (board: OpenBoard | undefined) => void;
}

const LAYERS = ['under', 'ink', 'live', 'over', 'veil', 'grids', 'guides', 'overlay'] as const;

/** The canvases of the board, put together with the session and the hand when they are in the document. */
export function BoardCanvas({ session, inks, onOpen }: BoardCanvasProps) {
  const ground = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = ground.current;
    if (!element) return;
    const board = open(element, session, inks);
    const resize = () => {
      const extent = { width: element.clientWidth, height: element.clientHeight };
      rememberBoard(extent);
      board.picture.resize(extent, coveredByBench());
    };
    board.picture.inks.onRest((isResting) => {
      element.setAttribute('aria-busy', String(!isResting));
      if (isResting) delete element.dataset.isFirst;
    });
    const watcher = new ResizeObserver(resize);
    watcher.observe(element);
    resize();
    board.hand.show(board.picture.view);
    takeFirstPicture((small) => {
      if (board.picture.inks.showFirst(small, session.card.width)) element.dataset.isFirst = '';
    });
    const stopEdits = session.onEdits((page, edits) => board.picture.edit(page, edits));
    const stopNotices = session.onNotice(say);
    const theme = window.matchMedia('(prefers-color-scheme: dark)');
    const repaint = () => board.picture.repaintColours();
    theme.addEventListener('change', repaint);
    const stopFollowing = followDesk(board);
    board.washing.takeUp(session.takeLeftMarks());
    onOpen(board);
    return () => {
      onOpen(undefined);
      stopFollowing();
      stopEdits();
      stopNotices();
      theme.removeEventListener('change', repaint);
      watcher.disconnect();
      board.hand.dispose();
      board.selection.dispose();
      board.points.dispose();
      board.guides.dispose();
      board.depth.dispose();
      board.mend.dispose();
      board.picture.dispose();
    };
  }, [session, inks, onOpen]);
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
        <svg width="0" height="0" aria-hidden style={{ position: 'absolute' }}>
          <filter id={HARD_EDGE} colorInterpolationFilters="sRGB">
            <feComponentTransfer>
              <feFuncA type="discrete" tableValues="0 1" />
            </feComponentTransfer>
          </filter>
        </svg>
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

/** Shows what the desk says about looks and selections; leaving the page keeps what is being transformed. */
function followDesk({ session, picture, selection, hand, path, points, mend, guides }: OpenBoard): () => void {
  const follow = (desk: Desk, before?: Desk) => {
    const tool = desk.lender ?? desk.tool;
    // What is selected can march too: then it is seen.
    selection.setVisible((desk.stage === 'ink' && tool === 'select') || tool === 'depth');
    if (desk.tool !== before?.tool || desk.stage !== before.stage || desk.layerId !== before.layerId) mend.follow();
    points.setVisible(desk.stage === 'mend' && tool === 'points');
    if (before && isPath(before) && !isPath(desk)) path.finish();
    const isDelivering = desk.stage === 'finish';
    if (desk.solo !== before?.solo || desk.standIns !== before.standIns || isDelivering !== (before.stage === 'finish'))
      picture.setLook(isDelivering ? plainLook : { solo: desk.solo, standIns: desk.standIns });
    if (before && desk.layerId !== before.layerId) {
      path.finish();
      points.letGo();
      if (desk.layerId !== selection.layerId) selection.clear();
    }
  };
  const keep = () =>
    session.beforeLeaving(() => {
      hand.keep();
      path.finish();
      selection.keep(true);
      guides.moves.finish();
    });
  // On a phone a page that is hidden may be closed without a word.
  const hide = () => {
    if (document.visibilityState !== 'hidden') return;
    session.beforeLeaving(() => {
      hand.keep();
      guides.moves.finish();
    });
  };
  // A layer that is gone is not alone any more: it would hide all others, and nobody could tell why.
  const stopLayers = session.onEdits((_page, edits) => {
    const { solo } = useDesk.getState();
    if (solo.length === 0) return;
    const gone = new Set(edits.flatMap(({ before, after }) => (before?.kind === 'layer' && !after ? [before.id] : [])));
    if (solo.some((id) => gone.has(id))) useDesk.setState({ solo: solo.filter((id) => !gone.has(id)) });
  });
  const stop = useDesk.subscribe(follow);
  follow(useDesk.getState());
  window.addEventListener('pagehide', keep);
  document.addEventListener('visibilitychange', hide);
  return () => {
    keep();
    stop();
    stopLayers();
    window.removeEventListener('pagehide', keep);
    document.removeEventListener('visibilitychange', hide);
  };
}

/** Whether lines are being built node by node; a borrowed tool leaves them as they are. */
const isPath = (desk: Desk): boolean => {
  const tool = desk.lender ?? desk.tool;
  return desk.stage === 'ink' && (tool === 'path' || (tool === 'shape' && desk.shape === 'poly-line'));
};

function open(ground: HTMLElement, session: PageSession, inks: StartedInks | undefined): OpenBoard {
  const layer = (name: (typeof LAYERS)[number]): HTMLCanvasElement => {
    const canvas = ground.querySelector<HTMLCanvasElement>(`canvas[data-layer="${name}"]`);
    if (!canvas) throw new Error('The board has lost one of its canvases.');
    return canvas;
  };
  const [under, ink, live, over, veil, grids, guides, overlay] = LAYERS.map(layer);
  const canvases: BoardCanvases = { under, ink, live, over, veil, grids, guides, overlay };
  const colours = () => ({
    seal: role('seal'),
    raised: role('raised'),
    desk: role('desk'),
    shadow: 'rgba(20, 22, 26, 0.35)',
  });
  const picture = new BoardPicture(
    canvases,
    session.page,
    (blob) => session.blob(blob),
    colours,
    say,
    inks && { inks, edits: session.unsentEdits },
  );
  session.companions = (page, edits) => {
    const { awakeSet } = useGuides.getState();
    return awakeSet === undefined ? [] : twinEdits(page, awakeSet, edits, newId);
  };
  const washing = new Washing({ picture, session, notice: say });
  const board = { picture, session, washing, notice: say };
  forgetEnd();
  useDesk.setState({ chosenLayers: [], solo: [] });
  setGuides({ guideId: undefined, laying: undefined, awakeSet: undefined });
  setDepth({ edges: [], limit: 'all', picture: undefined, proportions: undefined });
  const selection = new Selection(board);
  const tools = {
    ...{ ...board, selection, path: new PathTool(board), points: new PointTool(board) },
    guides: new GuideTool({ ...board, selection }),
  };
  const all = { ...tools, depth: new DepthTool(tools), mend: new MendTool(tools) };
  return { ...all, hand: new BoardHand(ground, all) };
}
