/** Squares of the plane share so many lists. */
const LISTS = 1 << 15;

/** Dots found by where they lie: squares of the plane, of which those with the same hash share a list (Teschner and others 2003). */
export class DotGrid {
  private readonly heads = new Int32Array(LISTS).fill(-1);
  private next = new Int32Array(1024);
  /** Triples x, y and the room that each asks for. */
  private places = new Float64Array(3 * 1024);
  count = 0;

  /** `side`: page px of a square. */
  constructor(private readonly side: number) {}

  add(x: number, y: number, room: number): void {
    if (this.count === this.next.length) this.grow();
    const list = this.listOf(Math.floor(x / this.side), Math.floor(y / this.side));
    this.places[3 * this.count] = x;
    this.places[3 * this.count + 1] = y;
    this.places[3 * this.count + 2] = room;
    this.next[this.count] = this.heads[list];
    this.heads[list] = this.count++;
  }

  /** Whether a dot that asks for some room lies farther from all others than half of its room and half of theirs. */
  hasRoom(x: number, y: number, room: number, most: number): boolean {
    const { side, heads, next, places } = this;
    const reach = (room + most) / 2;
    const [right, down] = [Math.floor((x + reach) / side), Math.floor((y + reach) / side)];
    for (let i = Math.floor((x - reach) / side); i <= right; i++)
      for (let j = Math.floor((y - reach) / side); j <= down; j++)
        for (let k = heads[this.listOf(i, j)]; k >= 0; k = next[k]) {
          const [dx, dy] = [places[3 * k] - x, places[3 * k + 1] - y];
          const least = (room + places[3 * k + 2]) / 2;
          if (dx * dx + dy * dy < least * least) return false;
        }
    return true;
  }

  private listOf(i: number, j: number): number {
    return ((i * 73_856_093) ^ (j * 19_349_663)) & (LISTS - 1);
  }

  private grow(): void {
    const next = new Int32Array(2 * this.next.length);
    next.set(this.next);
    this.next = next;
    const places = new Float64Array(2 * this.places.length);
    places.set(this.places);
    this.places = places;
  }
}
