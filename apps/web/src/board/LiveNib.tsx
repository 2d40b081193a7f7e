import { drawStroke, outlineOf } from '@true-nib/core/ink';
import type { Nib, PenSample } from '@true-nib/core/page';
import { useEffect, useRef } from 'react';
import { tracePairs } from '../render/inkPaint';

interface LiveNibProps {
  readonly nib: Nib;
  /** Screen px per page px: the line is shown as wide as it would be drawn, where it fits. */
  readonly zoom: number;
  readonly width: number;
  readonly height: number;
}

/** A real stroke with the nib, through the whole pipeline. */
export function LiveNib({ nib, zoom, width, height }: LiveNibProps) {
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
    target.fillStyle = nib.color;
    target.beginPath();
    tracePairs(target, outlineOf(drawStroke(wave(width, height), shown, { way: 'even', strength: 10 })).points);
    target.fill();
  }, [nib, zoom, width, height]);
  const background = isPale(nib.color) ? SLATE : undefined;
  return <canvas ref={canvas} aria-hidden style={{ width, height, display: 'block', background }} />;
}

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
