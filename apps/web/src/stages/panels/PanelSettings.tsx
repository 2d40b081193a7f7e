import { bordersOn, panelsOn, plainBorder } from '@true-nib/core/comic';
import { clamp, projectiveOf, type Matrix } from '@true-nib/core/math';
import { mmToPx, pxToMm, sheetOf, type Page } from '@true-nib/core/page';
import { withBorder, withGutter, type PanelEntity } from '@true-nib/core/panel';
import ArrowDownToLine from 'lucide-react-native/icons/arrow-down-to-line';
import ArrowUpToLine from 'lucide-react-native/icons/arrow-up-to-line';
import Copy from 'lucide-react-native/icons/copy';
import Trash from 'lucide-react-native/icons/trash';
import { Text, View } from 'react-native';
import { useShallow } from 'zustand/react/shallow';
import { useBoard, usePage } from '../../board';
import { Button, Choice, Hint, Line, LineHint, PictureChoice, ScrubNumber, Switch } from '../../look';
import { borderNibFor } from '../../nibs';
import { useSelection } from '../../select';
import {
  bleedChosen,
  changeChosen,
  changeSheet,
  copyChosen,
  layGrid,
  mapChosen,
  panelsFromSelected,
  orderAsTheyLie,
  panelBox,
  removeChosen,
  restackChosen,
  shapeChosen,
} from './deeds';
import { LAYOUTS, layoutPicture, SHAPE_PICTURES } from './pictures';
import { setPanels, usePanels } from './panelStore';

const pictures = LAYOUTS.map((layout) => ({ ...layout, picture: layoutPicture(layout.rows) }));

/** Layouts at one touch. */
function Layouts() {
  const board = useBoard();
  return (
    <PictureChoice
      label="Layout"
      value={undefined}
      options={pictures}
      onChange={(value) => {
        const layout = LAYOUTS.find((one) => one.value === value);
        if (!layout) return;
        setPanels({ rows: layout.rows.map(({ widths }) => widths.length) });
        layGrid(board, layout.rows);
      }}
    />
  );
}

const GUTTERS = { least: 0, most: 60, step: 0.5, unit: ' mm' } as const;

export function GutterSettings() {
  const { across, down } = usePanels(useShallow(({ across, down }) => ({ across, down })));
  return (
    <>
      <ScrubNumber label="Gutter" value={across} onChange={(mm) => setPanels({ across: mm })} {...GUTTERS} />
      <ScrubNumber label="Row gutter" value={down} onChange={(mm) => setPanels({ down: mm })} {...GUTTERS} />
    </>
  );
}

/** Rows and panels of the next grid as numbers. */
function GridNumbers() {
  const board = useBoard();
  const rows = usePanels((state) => state.rows);
  const count = (values: readonly number[], length: number) =>
    Array.from({ length }, (_, k) => values[k] ?? values.at(-1) ?? 1);
  return (
    <View className="gap-2">
      <Line>
        <ScrubNumber
          label="Rows"
          value={rows.length}
          onChange={(length) => setPanels({ rows: count(rows, length) })}
          {...{ least: 1, most: 12, step: 1 }}
        />
      </Line>
      <Line>
        <GutterSettings />
      </Line>
      <Text className="font-sans text-12 text-faint">Panels in each row</Text>
      <View className="flex-row flex-wrap gap-2">
        {rows.map((panels, row) => (
          <View key={row} className="w-[76px] flex-row">
            <ScrubNumber
              label={`Row ${row + 1}`}
              value={panels}
              onChange={(next) => setPanels({ rows: rows.map((one, k) => (k === row ? next : one)) })}
              {...{ least: 1, most: 12, step: 1 }}
            />
          </View>
        ))}
      </View>
      <Button label="Lay this grid" onPress={() => layGrid(board)} />
    </View>
  );
}

/** The panels that are meant: the chosen ones, or all. */
function usePanelsMeant(): { readonly page: Page; readonly chosen: readonly PanelEntity[]; readonly all: number } {
  const page = usePage(useBoard());
  const ids = usePanels((state) => state.chosen);
  const panels = panelsOn(page);
  return { page, chosen: panels.filter(({ id }) => ids.includes(id)), all: panels.length };
}

const inMm = (px: number, page: Page) => Math.round(pxToMm(px, page.size.ppi) * 10) / 10;

/** How wide borders are, 0 for none, and the gutter round insets; of the chosen panels, or of all. */
function BorderNumbers() {
  const board = useBoard();
  const { page, chosen } = usePanelsMeant();
  const [first = panelsOn(page)[0]] = chosen;
  const { border } = first ?? {};
  const { ppi } = page.size;
  const own = (panel: PanelEntity) => panel.border ?? plainBorder(ppi);
  return (
    <>
      <ScrubNumber
        label="Border"
        value={border ? Math.round(pxToMm(border.nib.size, ppi) * 100) / 100 : 0}
        onChange={() => undefined}
        onSettled={(mm) =>
          changeChosen(board, 'Border', (panel) => {
            const { gaps, nib } = own(panel);
            const size = mmToPx(mm, ppi);
            return withBorder(panel, mm > 0 ? { nib: { ...nib, size }, ...(gaps && { gaps }) } : undefined);
          })
        }
        {...{ least: 0, most: 10, step: 0.05, unit: ' mm' }}
      />
      {chosen.length > 0 && (
        <ScrubNumber
          label="Gutter round it"
          value={inMm(first?.gutter ?? 0, page)}
          onChange={() => undefined}
          onSettled={(mm) => changeChosen(board, 'Gutter', (panel) => withGutter(panel, mmToPx(mm, ppi)))}
          {...{ least: 0, most: 30, step: 0.5, unit: ' mm' }}
        />
      )}
    </>
  );
}

function BorderSettings() {
  const board = useBoard();
  const page = usePage(board);
  return (
    <View className="gap-2">
      <Line>
        <BorderNumbers />
      </Line>
      <Button
        label="Border from the nib in hand"
        onPress={() => changeChosen(board, 'Border', (panel) => withBorder(panel, { nib: borderNibFor(page) }))}
      />
    </View>
  );
}

/** Where the chosen panel lies and how large it is, in mm. */
function PanelNumbers({ panel, page }: { readonly panel: PanelEntity; readonly page: Page }) {
  const board = useBoard();
  const { minX, minY, maxX, maxY } = panelBox(panel);
  const least = Math.round(pxToMm(bordersOn(page).least, page.size.ppi));
  const [width, height] = [page.size.width, page.size.height].map((px) => inMm(px, page));
  const move = (dx: number, dy: number): Matrix => [1, 0, 0, 1, dx, dy];
  const sized = (sx: number, sy: number): Matrix => [sx, 0, 0, sy, minX * (1 - sx), minY * (1 - sy)];
  const to = (label: string, map: Matrix) => mapChosen(board, label, projectiveOf(map));
  const px = (mm: number) => mmToPx(mm, page.size.ppi);
  const shown = { onChange: () => undefined, step: 0.5, unit: ' mm' };
  const place = (value: number, most: number) => ({
    value: clamp(value, -most, 2 * most),
    least: -most,
    most: 2 * most,
  });
  return (
    <>
      <Line>
        <ScrubNumber
          label="Across"
          {...{ ...shown, ...place(inMm(minX, page), width) }}
          onSettled={(mm) => to('Move the panel', move(px(mm) - minX, 0))}
        />
        <ScrubNumber
          label="Down"
          {...{ ...shown, ...place(inMm(minY, page), height) }}
          onSettled={(mm) => to('Move the panel', move(0, px(mm) - minY))}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Width"
          {...{ ...shown, value: inMm(maxX - minX, page), least, most: 2 * width }}
          onSettled={(mm) => to('Size the panel', sized(px(mm) / (maxX - minX), 1))}
        />
        <ScrubNumber
          label="Height"
          {...{ ...shown, value: inMm(maxY - minY, page), least, most: 2 * height }}
          onSettled={(mm) => to('Size the panel', sized(1, px(mm) / (maxY - minY)))}
        />
      </Line>
    </>
  );
}

const SHAPES = [
  { value: 'box', label: 'Box', picture: SHAPE_PICTURES.box },
  { value: 'rounded', label: 'Rounded', picture: SHAPE_PICTURES.rounded },
  { value: 'oval', label: 'Oval', picture: SHAPE_PICTURES.oval },
] as const;

/** A panel that bleeds over an edge of its page, 44 by 30. */
const EDGES = [
  { value: 'left', label: 'Left', picture: 'M10 1H34V29H10ZM11.2 2.2V27.8H32.8V2.2ZM6 9H24V21H6V19.8H22.8V10.2H6Z' },
  { value: 'top', label: 'Top', picture: 'M10 1H34V29H10ZM11.2 2.2V27.8H32.8V2.2ZM15 0V16H29V0H27.8V14.8H16.2V0Z' },
  {
    value: 'right',
    label: 'Right',
    picture: 'M10 1H34V29H10ZM11.2 2.2V27.8H32.8V2.2ZM38 9H20V21H38V19.8H21.2V10.2H38Z',
  },
  {
    value: 'bottom',
    label: 'Bottom',
    picture: 'M10 1H34V29H10ZM11.2 2.2V27.8H32.8V2.2ZM15 30V14H29V30H27.8V15.2H16.2V30Z',
  },
] as const;

/** What the chosen panels are, and what can be done with them. */
function ChosenPanel() {
  const board = useBoard();
  const { page, chosen } = usePanelsMeant();
  const [first] = chosen;
  if (!first) return null;
  return (
    <View className="gap-2">
      {chosen.length === 1 && <PanelNumbers panel={first} page={page} />}
      <PictureChoice label="Shape" value={undefined} options={SHAPES} onChange={(shape) => shapeChosen(board, shape)} />
      <PictureChoice
        label="Bleeds over"
        value={undefined}
        options={EDGES}
        onChange={(edge) => bleedChosen(board, edge)}
      />
      <Line>
        <Button label="Copy" icon={Copy} onPress={() => copyChosen(board)} />
        <Button label="Front" icon={ArrowUpToLine} onPress={() => restackChosen(board, 'front')} />
        <Button label="Back" icon={ArrowDownToLine} onPress={() => restackChosen(board, 'back')} />
        <Button label="Delete" icon={Trash} onPress={() => removeChosen(board)} />
      </Line>
    </View>
  );
}

/** A panel of any shape: of each closed line, and each area, that is selected. */
function FromSelected() {
  const board = useBoard();
  const isAny = useSelection(({ size, isPixels }) => size > 0 && !isPixels);
  return isAny ? <Button label="Panels from what is selected" onPress={() => panelsFromSelected(board)} /> : null;
}

/** What goes along when panels are moved. */
function Switches() {
  const { takesInk, takesNeighbours, snaps } = usePanels(
    useShallow(({ takesInk, takesNeighbours, snaps }) => ({ takesInk, takesNeighbours, snaps })),
  );
  return (
    <>
      <Switch label="Ink goes along" on={takesInk} onChange={(on) => setPanels({ takesInk: on })} />
      <Switch label="Neighbours follow" on={takesNeighbours} onChange={(on) => setPanels({ takesNeighbours: on })} />
      <Switch label="Snaps" on={snaps} onChange={(on) => setPanels({ snaps: on })} />
    </>
  );
}

/** How the page is cut, and how far from the cut its panels begin. */
function SheetSettings() {
  const board = useBoard();
  const page = usePage(board);
  const { bleed, margin } = sheetOf(page);
  const px = (mm: number) => mmToPx(mm, page.size.ppi);
  const settled = { onChange: () => undefined, step: 0.5, unit: ' mm' };
  return (
    <Line>
      <ScrubNumber
        label="Margin"
        value={inMm(margin, page)}
        onSettled={(mm) => changeSheet(board, { margin: px(mm) })}
        {...{ ...settled, least: 0, most: 60 }}
      />
      <ScrubNumber
        label="Bleed"
        value={inMm(bleed, page)}
        onSettled={(mm) => changeSheet(board, { bleed: px(mm) })}
        {...{ ...settled, least: 0, most: 20 }}
      />
    </Line>
  );
}

export function PanelLine() {
  const { chosen, all } = usePanelsMeant();
  if (all === 0) return <LineHint>Choose a layout, or drag a frame over the page.</LineHint>;
  return chosen.length > 0 ? <BorderNumbers /> : <GutterSettings />;
}

export function PanelSettings() {
  const { chosen, all } = usePanelsMeant();
  return (
    <View className="gap-3">
      <ChosenPanel />
      {chosen.length === 0 && <Layouts />}
      <FromSelected />
      {chosen.length === 0 && <GridNumbers />}
      {all > 0 && <BorderSettings />}
      <SheetSettings />
      <Switches />
    </View>
  );
}

export const CutSettings = () => (
  <View className="gap-3">
    <Line>
      <GutterSettings />
    </Line>
    <Hint>Nearly straight across or down counts as straight.</Hint>
  </View>
);

export function ReadingSettings() {
  const board = useBoard();
  const { reads } = sheetOf(usePage(board));
  return (
    <View className="gap-2">
      <Choice
        label="Reading"
        value={reads}
        options={[
          { value: 'left to right', label: 'From the left' },
          { value: 'right to left', label: 'From the right' },
        ]}
        onChange={(next) => changeSheet(board, { reads: next })}
      />
      <Button label="Order by place" onPress={() => orderAsTheyLie(board)} />
    </View>
  );
}

export const StretchLine = () => (
  <LineHint>Drag between two panels: everything below moves along, ink, balloons and all.</LineHint>
);

export const JoinLine = () => <LineHint>Touch a panel, then the one beside it.</LineHint>;
