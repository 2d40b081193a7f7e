import { flattenSpine } from '@true-nib/core/curve';
import { searchTemplates, type Template } from '@true-nib/core/templates';
import { useMemo, useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { Field, Button } from '../look';
import { useBoard } from '../board';
import { layNext } from './layNext';
import { setGuides, useGuides } from './guideStore';
import { templateFromFile } from './ownTemplates';
import { allTemplates, dropTemplate, useOwnTemplates } from './templateStore';

interface TemplateChoiceProps {
  readonly width: number;
  /** The one that is in hand, and what is done with one that is taken; it is laid down next as a guide where nothing is said. */
  readonly inHand?: string;
  readonly onTaken?: (templateId: string) => void;
}

/** The template library: by group, or by a word. */
export function TemplateChoice({ width, inHand: chosen, onTaken = layTemplate }: TemplateChoiceProps) {
  const board = useBoard();
  const [words, setWords] = useState('');
  const own = useOwnTemplates((state) => state.own);
  const guideInHand = useGuides((state) => state.templateId);
  const inHand = chosen ?? guideInHand;
  const found = useMemo(() => searchTemplates(allTemplates(own), words), [own, words]);
  const groups = [...new Set(found.map(({ group }) => group))];
  const each = Math.floor(width / Math.max(2, Math.floor(width / 84))) - 6;
  return (
    <View className="gap-2" role="group" aria-label="Templates">
      <Field label="Find a template" value={words} onChange={setWords} />
      {groups.map((group) => (
        <View key={group} className="gap-1">
          <Text className="font-sans text-12 text-faint">{group}</Text>
          <View className="flex-row flex-wrap gap-1">
            {found
              .filter((template) => template.group === group)
              .map((template) => (
                <Pressable
                  key={template.id}
                  role="radio"
                  aria-checked={template.id === inHand}
                  aria-label={`${template.group}: ${template.name}`}
                  onPress={() => onTaken(template.id)}
                  style={{ width: each }}
                  className={`min-h-[64px] items-center justify-center rounded-xl border ${template.id === inHand ? 'border-seal bg-raised' : 'border-rule'}`}
                >
                  <Outline template={template} />
                  <Text className="font-sans text-12 text-ink" numberOfLines={1}>
                    {template.name}
                  </Text>
                </Pressable>
              ))}
          </View>
        </View>
      ))}
      <View className="flex-row flex-wrap gap-2">
        <Button label="From a file…" onPress={() => void templateFromFile(board)} />
        {own.some(({ id }) => id === inHand) && <Button label="Delete it" onPress={() => dropTemplate(inHand)} />}
      </View>
      {found.length === 0 && <Text className="font-sans text-14 text-faint">No template is called that.</Text>}
    </View>
  );
}

function layTemplate(templateId: string): void {
  setGuides({ templateId });
  layNext('template');
}

function Outline({ template }: { readonly template: Template }) {
  const path = useMemo(
    () =>
      template.rings
        .map((ring) => {
          const line = flattenSpine(ring, 4);
          let words = '';
          for (let i = 0; i < line.length; i += 3)
            words += `${i === 0 ? 'M' : 'L'}${line[i].toFixed(0)} ${line[i + 1].toFixed(0)}`;
          return `${words}Z`;
        })
        .join(''),
    [template],
  );
  return (
    <Svg width={44} height={36} viewBox="-220 -180 440 360" aria-hidden>
      <Path d={path} fill="none" stroke="var(--ink)" strokeWidth={12} />
    </Svg>
  );
}
