import { drawStroke, outlineOf } from '@true-nib/core/ink';
import type { Calm, PenSample } from '@true-nib/core/hand';
import type { Nib } from '@true-nib/core/nib';
import type { Laying } from '@true-nib/core/rack';
import { useEffect, useRef } from 'react';
import { traceRings } from '../render';

interface LiveNibProps {
  readonly nib: Nib;
  readonly calm?: Calm;
  readonly lays?: Laying;
  /** Screen px per page px: the line is shown as wide as it would be drawn, where it fits. */
  readonly zoom: number;
  readonly width: number;
  readonly height: number;
}

/** A real stroke with the nib, through the whole pipeline. */
export function LiveNib({ nib, calm = LIGHT, lays = 'ink', zoom, width, height }: LiveNibProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const target = canvas.current?.getContext('2d');
    if (!target) return;
    const ratio = window.devicePixelRatio || 1;
    target.canvas.width = width * ratio;
    target.canvas.height = height * ratio;
    target.setTransform(ratio, 0, 0, ratio, 0, 0);
    const size = Math.min(height * 0.36, Math.max(0.8, nib.size * zoom));
    const shown: Nib = {
      ...nib,
      size,
      taperIn: Math.min(nib.taperIn, (0.35 * width) / size),
      taperOut: Math.min(nib.taperOut, (0.45 * width) / size),
    };
    // What clears is shown as a line taken out of grey.
    const isPaper = lays !== 'ink';
    target.fillStyle = lays === 'clearing' ? '#ffffff' : nib.color;
    target.globalAlpha = nib.opacity ?? 1;
    target.beginPath();
    traceRings(target, outlineOf(drawStroke(wave(width, height), shown, calmed(calm), { seed: 4 })).rings);
    target.fill();
    canvas.current?.style.setProperty('background', isPaper || isPale(nib.color) ? SLATE : 'transparent');
  }, [nib, calm, lays, zoom, width, height]);
  return <canvas ref={canvas} aria-hidden style={{ width, height, display: 'block' }} />;
}

const LIGHT: Calm = { way: 'even', strength: 10 };

/** A preview is short: no more of it is calmed away than shows what the calm is like. */
const calmed = (calm: Calm): Calm => (calm.way === 'raw' ? calm : { ...calm, strength: calm.strength / 4 });

/** Ground on which white ink shows. */
const SLATE = '#5b6168';

/** Whether a colour would be lost on white paper. */
const isPale = (color: string): boolean => [1, 3, 5].every((at) => parseInt(color.slice(at, at + 2), 16) > 200);

/** What a hand does to try a nib: an easy wave, pressed in the middle. */
function wave(width: number, height: number): PenSample[] {
  const steps = 60;
  const margin = 14;
  return Array.from({ length: steps + 1 }, (_, k) => {
    const t = k / steps;
    return {
      x: margin + (width - 2 * margin) * t,
      y: height * (0.5 - 0.2 * Math.sin(2 * Math.PI * t) + 0.12 * (0.5 - t)),
      pressure: 0.06 + 0.9 * Math.sin(Math.PI * t) ** 1.4,
    };
  });
}
