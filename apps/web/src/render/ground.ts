/** A transparent canvas of so many px off the screen. Throws where a browser has none. */
export function ground(width: number, height: number): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(width, height).getContext('2d');
  if (!context) throw new Error('This browser cannot paint off the screen.');
  return context;
}
