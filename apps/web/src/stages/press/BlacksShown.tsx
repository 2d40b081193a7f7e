import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import type { SmallPicture } from '../../deliver';
import { Faint } from '../../look';
import { BarsLater } from './charts';
import { FolioBlacks } from './FolioBlacks';
import { inWords } from './inWords';
import { squinted } from './squint';
import { useWhilePageRests } from './useWhilePageRests';

/** CSS px that the page seen from afar is high at most. */
const HIGH = 220;
/** CSS px by which it is blurred: lines run together, and masses are left. */
const BLUR = 2.5;

/** The page seen with half-closed eyes, and how much of each panel is black. */
export function BlacksShown({ width }: { readonly width: number }) {
  const seen = useWhilePageRests(squinted, '');
  if (!seen) return <Faint>Looking …</Faint>;
  const { inks, shares } = seen;
  const panels = shares.panels.map(({ share }, k) => ({ label: String(k + 1), value: 100 * share }));
  const whole = `${Math.round(100 * shares.page)} % of the page is black.`;
  return (
    <View className="gap-2">
      <Squint inks={inks} width={width} />
      <Faint>{whole}</Faint>
      {panels.length > 0 && (
        <View role="img" aria-label={inWords('Panel', panels)}>
          <BarsLater bars={panels} most={100} width={width} height={90} />
          <Faint>Black in each panel, %.</Faint>
        </View>
      )}
      <FolioBlacks width={width} />
    </View>
  );
}

function Squint({ inks, width }: { readonly inks: SmallPicture; readonly width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!canvas.current || !context) return;
    Object.assign(canvas.current, { width: inks.width, height: inks.height });
    context.putImageData(new ImageData(inks.rgba, inks.width, inks.height), 0, 0);
  }, [inks]);
  const share = Math.min(HIGH / inks.height, width / inks.width);
  const size = { width: inks.width * share, height: inks.height * share };
  return (
    <View className="items-center overflow-hidden rounded-xl border border-rule bg-raised py-2">
      <canvas
        ref={canvas}
        role="img"
        aria-label="The page seen with half-closed eyes"
        style={{ ...size, filter: `blur(${BLUR}px)` }}
      />
    </View>
  );
}
