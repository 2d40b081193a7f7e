import { turnedRound, rowOf, sizeOf, type BlockEntity, type BlockShape, type Opening } from '@true-nib/core/set';
import Copy from 'lucide-react-native/icons/copy';
import Group from 'lucide-react-native/icons/group';
import Trash from 'lucide-react-native/icons/trash';
import { Children, type ReactNode } from 'react';
import { View } from 'react-native';
import { useBoard, type Board } from '../../board';
import { templateById, TemplateChoice } from '../../guiding';
import { Button, Choice, Faint, Fold, Line, LineHint, NameField, PictureChoice, ScrubNumber, Switch } from '../../look';
import { useSelection } from '../../select';
import { changeChosen, copyChosen, drawOut, groupChosen, removeChosen, turnRound } from './deeds';
import { useSetInHand } from './inHand';
import { shapeOptions } from './pictures';
import { SetList } from './SetList';
import { setSets, useSets } from './setStore';

const METRES = { least: 0.01, most: 100, step: 0.01, unit: ' m' } as const;
const still = () => undefined;
const shown = (value: number) => Math.round(value * 100) / 100;

/** The size of the block in hand, or what the next touch does. */
export function BlockLine() {
  const board = useBoard();
  const laying = useSets((state) => state.laying);
  const made = useSets((state) => state.made);
  const { chosen } = useSetInHand();
  const [block] = chosen;
  if (!made && !laying && chosen.length === 1) return <>{sizeNumbers(board, block)}</>;
  return <BlockHint />;
}

/** What the next touch does, in words. */
export function BlockHint() {
  const laying = useSets((state) => state.laying);
  const made = useSets((state) => state.made);
  const { chosen, blocks } = useSetInHand();
  if (made) return <LineHint>Touch where it is to stand, or drag its base.</LineHint>;
  if (laying) return <LineHint>{`${rowOf(laying).label}: touch the floor or a face, or drag its base.`}</LineHint>;
  if (chosen.length > 1) return <LineHint>{`${chosen.length} blocks: drag them, copy them, group them.`}</LineHint>;
  return (
    <LineHint>
      {blocks.length === 0 ? 'Choose a block to begin a set.' : 'Touch a block: drag it, or a side of it.'}
    </LineHint>
  );
}

/** Width, depth and height of a block, those that it has. */
function sizeNumbers(board: Board, block: BlockEntity): ReactNode[] {
  const size = sizeOf(block.shape);
  const set = (axis: number, metres: number) =>
    changeChosen(board, 'Size the block', (one) => {
      const own = sizeOf(one.shape);
      const asked = [0, 1, 2].map((k) => (k === axis ? metres : own[k]));
      return { ...one, shape: rowOf(one.shape.kind).sized(one.shape, [asked[0], asked[1], asked[2]]) };
    });
  return ['Width', 'Depth', 'Height'].flatMap((label, axis) =>
    size[axis] > 0
      ? [
          <ScrubNumber
            key={label}
            label={label}
            value={shown(size[axis])}
            onChange={still}
            onSettled={(metres) => set(axis, metres)}
            {...METRES}
          />,
        ]
      : [],
  );
}

export function BlockSettings({ width }: { readonly width: number }) {
  const laying = useSets((state) => state.laying);
  const snaps = useSets((state) => state.snaps);
  const { chosen } = useSetInHand();
  return (
    <View className="gap-3">
      {chosen.length > 0 && <ChosenBlocks chosen={chosen} />}
      <PictureChoice
        label="Block to lay"
        isLines
        value={laying}
        options={shapeOptions()}
        onChange={(kind) => setSets({ laying: laying === kind ? undefined : kind, made: undefined, chosen: [] })}
      />
      <FromDrawn width={width} />
      <Switch label="Snaps" on={snaps} onChange={(on) => setSets({ snaps: on })} />
      <SetList />
    </View>
  );
}

/** Blocks of what is drawn: closed lines and templates drawn out, half an outline turned round. */
function FromDrawn({ width }: { readonly width: number }) {
  const board = useBoard();
  const isAny = useSelection(({ size, isPixels }) => size > 0 && !isPixels);
  return (
    <Fold title="From a line or a template">
      <View className="gap-2">
        {isAny ? (
          <View className="flex-row flex-wrap gap-2">
            <Button label="Draw it out" onPress={() => drawOut(board)} />
            <Button label="Turn it round" onPress={() => turnRound(board)} />
          </View>
        ) : (
          <Faint>Select a closed line to draw it out, or half an outline to turn it round its left side.</Faint>
        )}
        <TemplateChoice width={width} onTaken={(id) => drawOut(board, templateById(id)?.rings)} />
      </View>
    </Fold>
  );
}

function ChosenBlocks({ chosen }: { readonly chosen: readonly BlockEntity[] }) {
  const board = useBoard();
  const row = useSets((state) => state.row);
  const [block] = chosen;
  const isGroup = chosen.length > 1 && chosen.every(({ group }) => group !== undefined && group === block.group);
  return (
    <View className="gap-2">
      {chosen.length === 1 && <OneBlock block={block} />}
      <Choice
        label="Lines of it"
        value={block.lines}
        options={[
          { value: 'all', label: 'All lines' },
          { value: 'contour', label: 'Contour' },
          { value: 'none', label: 'None' },
        ]}
        onChange={(lines) => changeChosen(board, 'Lines of the block', (one) => ({ ...one, lines }))}
      />
      <View className="flex-row flex-wrap gap-2">
        <Button label="Copy" icon={Copy} onPress={() => copyChosen(board, 1, 0.2)} />
        {chosen.length > 1 && (
          <Button label={isGroup ? 'Ungroup' : 'Group'} icon={Group} onPress={() => groupChosen(board)} />
        )}
        <Button label="Delete" icon={Trash} onPress={() => removeChosen(board)} />
      </View>
      <Fold title="In a row">
        <Line>
          <ScrubNumber
            label="Copies"
            value={row.count}
            onChange={(count) => setSets({ row: { ...row, count: Math.round(count) } })}
            {...{ least: 1, most: 100, step: 1 }}
          />
          <ScrubNumber
            label="Between"
            value={row.gap}
            onChange={(gap) => setSets({ row: { ...row, gap } })}
            {...{ least: -10, most: 50, step: 0.1, unit: ' m' }}
          />
        </Line>
        <Button label="Copy in a row" onPress={() => copyChosen(board, row.count, row.gap)} />
      </Fold>
    </View>
  );
}

/** Numbers side by side, as many as there is room for. */
function Numbers({ children }: { readonly children: ReactNode }) {
  return (
    <View className="flex-row flex-wrap gap-2">
      {Children.map(children, (child) => child && <View className="min-w-[84px] flex-1 flex-row">{child}</View>)}
    </View>
  );
}

function OneBlock({ block }: { readonly block: BlockEntity }) {
  const board = useBoard();
  const [, , z, w] = block.turn;
  const degrees = Math.round((2 * Math.atan2(z, w) * 180) / Math.PI);
  const isUpright = Math.abs(block.turn[0]) + Math.abs(block.turn[1]) < 1e-9;
  const place = (axis: number, metres: number) =>
    changeChosen(board, 'Move the block', (one) => {
      const at = [0, 1, 2].map((k) => (k === axis ? metres : one.at[k]));
      return { ...one, at: [at[0], at[1], at[2]] };
    });
  return (
    <View className="gap-2">
      <NameField
        label="Name of the block"
        name={block.name}
        most={60}
        onName={(name) => changeChosen(board, 'Name the block', (one) => ({ ...one, name }))}
      />
      <Numbers>
        {sizeNumbers(board, block)}
        {['Right', 'Left', 'Up'].map((label, axis) => (
          <ScrubNumber
            key={label}
            label={label}
            value={shown(block.at[axis])}
            onChange={still}
            onSettled={(metres) => place(axis, metres)}
            {...{ ...METRES, least: -100 }}
          />
        ))}
        {isUpright && (
          <ScrubNumber
            label="Turned"
            value={degrees}
            onChange={still}
            onSettled={(next) =>
              changeChosen(board, 'Turn the block', (one) => ({ ...one, turn: turnedRound((next * Math.PI) / 180) }))
            }
            {...{ least: -180, most: 180, step: 1, unit: '°' }}
          />
        )}
        <ShapeNumbers block={block} />
      </Numbers>
      {block.shape.kind === 'wall' && <Openings shape={block.shape} />}
      <Line>
        <Switch
          label="Hidden"
          on={block.hidden}
          onChange={(hidden) => changeChosen(board, 'Hide the block', (one) => ({ ...one, hidden }))}
        />
      </Line>
    </View>
  );
}

/** The numbers that a shape has besides its size. */
function ShapeNumbers({ block: { shape } }: { readonly block: BlockEntity }) {
  const board = useBoard();
  const set = (next: BlockShape) => changeChosen(board, 'Shape of the block', (one) => ({ ...one, shape: next }));
  const number = (label: string, value: number, range: object, make: (next: number) => BlockShape) => (
    <ScrubNumber
      key={label}
      label={label}
      value={value}
      onChange={still}
      onSettled={(next) => set(make(next))}
      {...{ least: 1, most: 100, step: 1, ...range }}
    />
  );
  switch (shape.kind) {
    case 'stair':
      return number('Steps', shape.steps, { most: 100 }, (steps) => ({ ...shape, steps: Math.round(steps) }));
    case 'fence':
      return (
        <>
          {number('Posts', shape.posts, { least: 2 }, (posts) => ({ ...shape, posts: Math.round(posts) }))}
          {number('Rails', shape.rails, { least: 0, most: 12 }, (rails) => ({ ...shape, rails: Math.round(rails) }))}
        </>
      );
    case 'roof':
      return number('Hipped', Math.round(shape.hip * 100), { least: 0, unit: ' %' }, (hip) => ({
        ...shape,
        hip: hip / 100,
      }));
    case 'cone':
      return number('Top', shown(2 * shape.top), { least: 0, step: 0.01, unit: ' m' }, (top) => ({
        ...shape,
        top: top / 2,
      }));
    case 'box':
    case 'wedge':
    case 'wall':
    case 'cylinder':
    case 'sphere':
    case 'turned':
    case 'plane':
    case 'extruded':
    case 'mesh':
      return null;
  }
}

const DOOR: Opening = { at: [0, 0], size: [0.9, 2.1], arched: false };
const WINDOW: Opening = { at: [0, 0.9], size: [1, 1.2], arched: false };

/** Doors and windows of a wall, and more of them at a touch. */
function Openings({ shape }: { readonly shape: Extract<BlockShape, { readonly kind: 'wall' }> }) {
  const board = useBoard();
  const set = (openings: readonly Opening[], label: string) =>
    changeChosen(board, label, (one) => ({
      ...one,
      shape: rowOf('wall').check({ ...shape, openings: [...openings] }),
    }));
  const change = (k: number, next: Partial<Opening>) =>
    set(
      shape.openings.map((opening, at) => (at === k ? { ...opening, ...next } : opening)),
      'Change an opening',
    );
  const add = (opening: Opening) => {
    const free = freePlace(shape, opening);
    if (free === undefined) return board.notice('There is no room in this wall for another one of that width.');
    set([...shape.openings, { ...opening, at: [free, opening.at[1]] }], 'Cut an opening');
  };
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2">
        <Button label="Door" onPress={() => add(DOOR)} />
        <Button label="Window" onPress={() => add(WINDOW)} />
        <Button label="Arch" onPress={() => add({ ...DOOR, size: [1.4, 2.2], arched: true })} />
      </View>
      {shape.openings.map((opening, k) => (
        <Fold key={k} title={`Opening ${k + 1}`}>
          <Line>
            {(
              [
                ['Along', opening.at[0], (along: number) => change(k, { at: [along, opening.at[1]] })],
                ['Foot', opening.at[1], (foot: number) => change(k, { at: [opening.at[0], foot] })],
                ['Wide', opening.size[0], (wide: number) => change(k, { size: [wide, opening.size[1]] })],
                ['High', opening.size[1], (high: number) => change(k, { size: [opening.size[0], high] })],
              ] as const
            ).map(([label, value, onSettled]) => (
              <ScrubNumber
                key={label}
                label={label}
                value={shown(value)}
                onChange={still}
                onSettled={onSettled}
                {...{ ...METRES, least: label === 'Along' ? -100 : 0 }}
              />
            ))}
          </Line>
          <Switch label="Arched" on={opening.arched} onChange={(arched) => change(k, { arched })} />
          <Button
            label="Close this opening"
            onPress={() =>
              set(
                shape.openings.filter((_, at) => at !== k),
                'Close an opening',
              )
            }
          />
        </Fold>
      ))}
    </View>
  );
}

/** Where along a wall there is room for an opening: in the middle, or beside those that there are. */
function freePlace(
  { size, openings }: Extract<BlockShape, { readonly kind: 'wall' }>,
  { size: [wide] }: Opening,
): number | undefined {
  const room = size[0] / 2 - wide / 2 - 0.05;
  const places = [
    0,
    ...openings.flatMap(({ at, size: [own] }) => [1, -1].map((side) => at[0] + side * (own / 2 + wide / 2 + 0.3))),
  ];
  return places.find(
    (place) =>
      Math.abs(place) <= room &&
      openings.every(({ at, size: [own] }) => Math.abs(at[0] - place) >= (own + wide) / 2 + 0.05),
  );
}
