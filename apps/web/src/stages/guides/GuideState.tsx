import { guideSlot } from './guideTool';
import { putIn } from '@true-nib/core/comic';
import { framesOf } from '@true-nib/core/drawn';
import { anchorOf, type GuideEntity } from '@true-nib/core/guides';
import { find } from '@true-nib/core/page';
import { View } from 'react-native';
import { Button, Choice, Switch, Line } from '../../look';
import { useBoard, useDesk, layerInHand } from '../../board';
import { releaseAll } from '../../hand';
import { setGuides, copyOf } from '../../guiding';

/** Seen, acting, reach, and what else can be said of any guide. */
export function StateSettings({ guide }: { readonly guide: GuideEntity }) {
  const board = useBoard();
  const { session } = board;
  const guides = board.of(guideSlot);
  const chosen = useDesk((desk) => desk.chosenLayers);
  const layerId = useDesk((desk) => desk.layerId);
  const layer = layerInHand(session.page, layerId)?.layer;
  const tell = (label: string, change: Partial<GuideEntity>) => guides.tell(guide, `${label}: ${guide.name}`, change);
  const panel =
    find(session.page, 'panel', guide.panelId ?? '') ?? framesOf(session.page).panelAt(anchorOf(guide.shape));
  const reach = guide.reach === 'all' ? 'all' : guide.reach.length === 1 ? 'layer' : 'chosen';
  const reachTo = (to: 'all' | 'layer' | 'chosen') => {
    const own = layer ? [layer.id] : [];
    tell('Reach', { reach: to === 'all' ? 'all' : to === 'layer' ? own : [...new Set([...own, ...chosen])] });
  };
  return (
    <View className="gap-2">
      <Line>
        <Choice
          label="Reach"
          value={reach}
          options={[
            { value: 'layer', label: 'Layer' },
            { value: 'chosen', label: 'Chosen' },
            { value: 'all', label: 'All' },
          ]}
          onChange={reachTo}
        />
      </Line>
      <Switch label="Acting" on={guide.acting} onChange={(acting) => tell(acting ? 'Wake' : 'Sleep', { acting })} />
      <Switch label="Seen" on={guide.seen} onChange={(seen) => tell(seen ? 'Show' : 'Hide', { seen })} />
      <Switch label="Locked" on={guide.locked} onChange={(locked) => tell(locked ? 'Lock' : 'Unlock', { locked })} />
      <Switch
        label="Tether: lines drawn on it go along"
        on={guide.tethers}
        onChange={(tethers) => tell(tethers ? 'Tether' : 'No tether', { tethers })}
      />
      {panel && (
        <Switch
          label="Goes along with its panel"
          on={guide.panelId === panel.id}
          onChange={(isIn) =>
            session.commit(`${isIn ? 'Into its panel' : 'Out of its panel'}: ${guide.name}`, [
              { before: guide, after: putIn(guide, isIn ? panel.id : undefined) },
            ])
          }
        />
      )}
      <View className="flex-row flex-wrap gap-2">
        {guide.tethers && <Button label="Release its lines" onPress={() => releaseAll(board, guide)} />}
        <Button
          label="Copy"
          onPress={() => {
            const copy = copyOf(session.page, guide, guide.shape);
            session.commit(`Copy ${guide.name}`, [{ before: null, after: copy }]);
            setGuides({ guideId: copy.id });
          }}
        />
        <Button
          label="Delete"
          onPress={() => session.commit(`Delete ${guide.name}`, [{ before: guide, after: null }])}
        />
      </View>
    </View>
  );
}
