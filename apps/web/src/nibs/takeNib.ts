import { takeTool, useDesk, workbench } from '../board';
import { nibInHand, setNibSize, setRubSize, takeNibById, useRack } from './rackStore';

/** Takes a nib in hand. A tool that draws with it goes on with it; else the first such tool is taken up. */
export function takeNib(id: string): void {
  takeNibById(id);
  const { tool } = useDesk.getState();
  const drawing = workbench.tools.filter(({ takesNib }) => takesNib);
  const goesOn = drawing.find((one) => one.id === tool) ?? drawing[0];
  if (goesOn) takeTool(goesOn.id);
}

/** Makes the nib in hand larger or smaller by a factor. */
export function resizeNib(factor: number): void {
  const { nib, unit } = nibInHand(useRack.getState());
  setNibSize(rounded(nib.size * factor, unit === 'mm' ? 1000 : 10));
}

/** The same for what it rubs with. */
export function resizeRub(factor: number): void {
  const { twin, unit } = nibInHand(useRack.getState());
  setRubSize(rounded(twin.size * factor, unit === 'mm' ? 1000 : 1));
}

const rounded = (size: number, places: number): number => Math.round(size * places) / places;
