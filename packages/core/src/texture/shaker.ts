import { seededRandom, type Point } from '../math';
import { DotGrid } from './dotGrid';
import { mostShare, roomFor, type DotSettings } from './stipple';

/** How a shaker strews. Lengths in page px. */
export interface ShakerSettings extends DotSettings {
  /** How far from the pen dots fall. */
  readonly radius: number;
  /** The share of the paper that they cover under a full pressure, 0..1. */
  readonly share: number;
}

/** Places tried at each step of the pen, to the square of how many dots lie side by side under it. */
const TRIED = 6;
/** Places tried at one step at most. */
const MOST_TRIED = 400;

/** Dots that fall under a pen: thicker with pressure, and never two nearer than their size, however often it goes over them. */
export class Shaker {
  private readonly grid: DotGrid;
  private readonly random: () => number;
  private readonly fallen: number[] = [];
  private most = 0;

  /** `there`: triples x, y, width of dots that lie there already. */
  constructor(
    private readonly settings: ShakerSettings,
    seed: number,
    there: ArrayLike<number> = [],
  ) {
    this.random = seededRandom(seed);
    const room = roomFor(1, settings);
    this.grid = new DotGrid(2 * room);
    for (let i = 0; i < there.length; i += 3) this.grid.add(there[i], there[i + 1], there[i + 2]);
    for (let i = 2; i < there.length; i += 3) this.most = Math.max(this.most, there[i]);
  }

  /** Strews about a place under a pressure 0..1. */
  shake({ x, y }: Point, pressure: number): void {
    const { settings, grid, random } = this;
    const { size, uneven = 0, radius } = settings;
    const share = Math.min(mostShare(settings), settings.share) * Math.max(0.02, pressure);
    const room = roomFor(share, settings);
    const tries = Math.min(MOST_TRIED, Math.ceil(TRIED * Math.max(1, radius / room) ** 2));
    for (let k = 0; k < tries; k++) {
      const [angle, away] = [2 * Math.PI * random(), radius * Math.sqrt(random())];
      const [u, v, wide] = [
        x + away * Math.cos(angle),
        y + away * Math.sin(angle),
        size * (1 + uneven * (random() - 0.5)),
      ];
      if (!grid.hasRoom(u, v, room, this.most)) continue;
      grid.add(u, v, room);
      this.most = Math.max(this.most, room);
      this.fallen.push(u, v, wide);
    }
  }

  /** Triples x, y, width of all that has fallen but the first so many. */
  fallenAfter(count: number): Float64Array {
    return Float64Array.from(this.fallen.slice(3 * count));
  }
}
