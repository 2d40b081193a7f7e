import { drawStroke, outlineOf } from '@true-nib/core/ink';
import type { Calm, PenSample } from '@true-nib/core/hand';
import { seededRandom } from '@true-nib/core/math';
import type { Nib } from '@true-nib/core/nib';
import { useEffect, useRef } from 'react';
import { Text, View } from 'react-native';
import { breath } from '../base';
import { role } from '../look';
import { traceRings } from '../render';

const HEIGHT = 58;
const NIB: Nib = { name: 'Picture', size: 2.4, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' };

const WORDS: Readonly<Record<Calm['way'], string>> = {
  raw: 'The hand as it is: every tremor stays, nothing waits.',
  even: 'Each place is the mean of the way around it. Corners stay, and there is no lag.',
  tow: 'The pen pulls the line on a slack string. Rest, or press its key, to turn a corner.',
  sprung: 'The line hangs on a spring: heavy, flowing, a little late.',
};

/** Two lines: a shaky hand above in pale, and in ink what the calm makes of it. */
export function WayPicture({ calm, width }: { readonly calm: Calm; readonly width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const target = canvas.current?.getContext('2d');
    if (!target) return;
    // The panel that it is part of comes first: drawing two lines takes as long as all the rest of it.
    let isGone = false;
    void breath().then(() => {
      if (!isGone) draw(target, calm, width);
    });
    return () => {
      isGone = true;
    };
  }, [calm, width]);
  return (
    <View className="gap-1">
      <canvas ref={canvas} aria-hidden style={{ width, height: HEIGHT, display: 'block' }} />
      <Text className="font-sans text-12 text-faint">{WORDS[calm.way]}</Text>
    </View>
  );
}

function draw(target: CanvasRenderingContext2D, calm: Calm, width: number): void {
  const ratio = window.devicePixelRatio || 1;
  target.canvas.width = width * ratio;
  target.canvas.height = HEIGHT * ratio;
  target.setTransform(ratio, 0, 0, ratio, 0, 0);
  const hand = shaky(width);
  const lines = [
    { nib: NIB, calm: { way: 'raw' } as const, colour: role('rough'), lift: -9 },
    { nib: NIB, calm, colour: role('ink'), lift: 9 },
  ];
  for (const { nib, calm: own, colour, lift } of lines) {
    target.fillStyle = colour;
    target.beginPath();
    const samples = hand.map((sample) => ({ ...sample, y: sample.y + lift }));
    traceRings(target, outlineOf(drawStroke(samples, nib, own)).rings);
    target.fill();
  }
}

/** A hand that trembles along a bend and around a corner. */
function shaky(width: number): PenSample[] {
  const random = seededRandom(5);
  const steps = 120;
  return Array.from({ length: steps + 1 }, (_, k) => {
    const t = k / steps;
    const bend = t < 0.7 ? 8 * Math.sin(5 * t) : 8 * Math.sin(3.5) + (t - 0.7) * 46;
    return {
      x: 14 + (width - 28) * (t < 0.7 ? t * 1.25 : 0.875 - (t - 0.7) * 0.2),
      y: HEIGHT / 2 - 4 + bend + (random() - 0.5) * 2.6 + 0.9 * Math.sin(t * 75),
      pressure: 0.6,
      time: 9 * k,
    };
  });
}
