import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { moveInStack, nodesOf, rowsOf, stackOf, type Page, type StackNode } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { useDeferredValue, useMemo } from 'react';
import { useBoard, usePage, chooseLayer, takeLayer, useDesk, layerInHand } from '../board';
import { dropPlace } from './dropPlace';
import { chosenIds, tellLayers } from './layerCommands';
import { StackRow, type RowActions } from './StackRow';
import { useShallow } from 'zustand/react/shallow';

/** CSS px to the left by which a row is dragged out of the group at whose foot it lies. */
const OUTWARDS = -24;

/** Rows that may come or go without being noticed: more are drawn with breaths between them. */
const MANY = 4;

/** A page as it is now, or, where many layers have come or gone at once, as soon as its rows could be drawn. */
function useInTime(now: Page): Page {
  const later = useDeferredValue(now);
  return Math.abs(now.entities.countOf('layer') - later.entities.countOf('layer')) > MANY ? later : now;
}

/** The layers, the highest first; dragged by their grips, with the pointer or the keyboard. */
export function StackList({ isChoosing }: { readonly isChoosing: boolean }) {
  const board = useBoard();
  const page = useInTime(usePage(board));
  const { layerId, chosenLayers, solo } = useDesk(
    useShallow(({ layerId, chosenLayers, solo }) => ({ layerId, chosenLayers, solo })),
  );
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const actions = useMemo<RowActions>(
    () => ({
      take: ({ id }, several) => (several || isChoosing ? chooseLayer(id) : takeLayer(id)),
      hide: ({ id, name, hidden }) =>
        void tellLayers(board, [id], `${hidden ? 'Show' : 'Hide'} ${name}`, { hidden: !hidden }),
      lock: ({ id, name, locked }) =>
        void tellLayers(board, [id], `${locked ? 'Unlock' : 'Lock'} ${name}`, { locked: !locked }),
    }),
    [board, isChoosing],
  );
  const rows = rowsOf(stackOf(page));
  const inHand = layerInHand(page, layerId)?.layer.id;
  const drop = ({ active, over, delta }: DragEndEvent) => {
    const from = rows.findIndex(({ layer }) => layer.id === active.id);
    const to = rows.findIndex(({ layer }) => layer.id === over?.id);
    if (from < 0 || to < 0) return;
    const isOutwards = delta.x < OUTWARDS;
    if (from === to && !isOutwards) return;
    const ids = chosenLayers.includes(String(active.id)) ? chosenIds(page) : [String(active.id)];
    const carried = new Set(rows.filter((row) => isCarried(row, ids, rows)).map(({ layer }) => layer.id));
    const moved = arrayMove(rows, from, to);
    const rest = moved.filter(({ layer }) => layer.id === active.id || !carried.has(layer.id));
    const index = rest.findIndex(({ layer }) => layer.id === active.id);
    const staying = rest.filter(({ layer }) => !carried.has(layer.id));
    board.session.attempt((now) => moveInStack(now, ids, dropPlace(staying, parentsOf(rows), index, isOutwards)));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={drop}
      accessibility={{ announcements: announcementsFor(rows), screenReaderInstructions: INSTRUCTIONS }}
    >
      <SortableContext items={rows.map(({ layer }) => layer.id)} strategy={verticalListSortingStrategy}>
        <div role="list" aria-label="Layers, the highest first">
          {rows.map((node) => {
            const { layer } = node;
            return (
              <StackRow
                key={layer.id}
                node={node}
                isInHand={layer.id === inHand}
                isChosen={chosenLayers.includes(layer.id)}
                isSolo={solo.includes(layer.id)}
                actions={actions}
              />
            );
          })}
        </div>
      </SortableContext>
    </DndContext>
  );
}

const INSTRUCTIONS = {
  draggable: 'Space takes the layer up, the arrow keys carry it, Space lays it down, Esc lets it go.',
};

/** What a screen reader says while a layer is carried. */
function announcementsFor(rows: readonly StackNode[]): Announcements {
  const name = (id: UniqueIdentifier) => rows.find(({ layer }) => layer.id === id)?.layer.name ?? 'The layer';
  const place = (id: UniqueIdentifier) => `${rows.findIndex(({ layer }) => layer.id === id) + 1} of ${rows.length}`;
  return {
    onDragStart: ({ active }) => `${name(active.id)} is taken up.`,
    onDragOver: ({ active, over }) => (over ? `${name(active.id)} is at place ${place(over.id)}.` : undefined),
    onDragEnd: ({ active, over }) => (over ? `${name(active.id)} lies at place ${place(over.id)}.` : undefined),
    onDragCancel: ({ active }) => `${name(active.id)} stays where it was.`,
  };
}

/** Whether a row goes along: it is one of those moved, or lies in one. */
const isCarried = ({ layer }: StackNode, ids: readonly EntityId[], rows: readonly StackNode[]): boolean =>
  ids.includes(layer.id) ||
  rows.some(
    (outer) => ids.includes(outer.layer.id) && nodesOf(outer.children).some((inner) => inner.layer.id === layer.id),
  );

/** The group that each layer lies in. */
const parentsOf = (rows: readonly StackNode[]): ReadonlyMap<EntityId, EntityId | undefined> =>
  new Map([
    ...rows.map(({ layer }) => [layer.id, undefined] as const),
    ...rows.flatMap(({ layer, children }) => children.map((child) => [child.layer.id, layer.id] as const)),
  ]);
