import { flatRing, type Area, type ToneFill } from '../area';
import { boxOfPoints, boxOfRings, growBox, ringInBox, type Box } from '../math';
import { gridOf, type Grid } from './screen';

/** Page px that the edge at which a tone is cut may stray. */
const CUT = 0.05;

/** Dots or lines that lie near each other: they are worked out and painted together, and only where they are seen. */
export interface Patch {
  /** Page px. */
  readonly box: Box;
  /** Their rings, straying by no more than `tolerance` page px. */
  rings(tolerance: number): Float64Array[];
}

/** A part of a tone's grid, in periods, and what of its area lies there. */
export interface Part {
  readonly grid: Grid;
  readonly block: Box;
  /** The area's rings in the grid, cut off a little beyond the block. */
  readonly local: readonly Float64Array[];
}

/** How a tone is parted: the sides of a block in periods, and by how much what is made in it reaches beyond. */
export interface Parting {
  readonly wide: number;
  readonly high: number;
  readonly reach: number;
  readonly turn?: number;
}

/** The parts of a tone within its area, each a patch whose rings `make` works out when they are asked for. */
export function patchesOf(
  fill: ToneFill,
  { rings }: Pick<Area, 'rings'>,
  { wide, high, reach, turn = 0 }: Parting,
  make: (part: Part, tolerance: number) => Float64Array[],
): Patch[] {
  const grid = gridOf(fill, turn);
  const inGrid = rings.map((ring) => onGrid(flatRing(ring, CUT), grid));
  const all = growBox(boxOfRings(inGrid), reach);
  const patches: Patch[] = [];
  for (let minY = Math.ceil(all.minY); minY <= all.maxY; minY += high)
    for (let minX = Math.ceil(all.minX); minX <= all.maxX; minX += wide) {
      const block = { minX, minY, maxX: Math.min(all.maxX, minX + wide), maxY: Math.min(all.maxY, minY + high) };
      const around = growBox(block, reach + 0.5);
      patches.push({
        box: onPage(growBox(block, reach), grid),
        rings(tolerance) {
          const local = inGrid.map((ring) => ringInBox(ring, around)).filter(({ length }) => length > 4);
          return local.length > 0 ? make({ grid, block, local }, tolerance) : [];
        },
      });
    }
  return patches;
}

function onGrid(ring: Float64Array, { u, v }: Grid): Float64Array {
  const turned = new Float64Array(ring.length);
  for (let i = 0; i < ring.length; i += 2) {
    turned[i] = u(ring[i], ring[i + 1]);
    turned[i + 1] = v(ring[i], ring[i + 1]);
  }
  return turned;
}

/** Rings of a grid where they lie on the page. */
export function ringsOnPage(rings: readonly Float64Array[], { place }: Grid): Float64Array[] {
  return rings.map((ring) => {
    const laid = new Float64Array(ring.length);
    for (let i = 0; i < ring.length; i += 2) {
      const { x, y } = place(ring[i], ring[i + 1]);
      laid[i] = x;
      laid[i + 1] = y;
    }
    return laid;
  });
}

const onPage = ({ minX, minY, maxX, maxY }: Box, { place }: Grid): Box =>
  boxOfPoints([place(minX, minY), place(maxX, minY), place(maxX, maxY), place(minX, maxY)]);
