import type { CDPSession, Page } from '@playwright/test';

export type Place = readonly [x: number, y: number];

/** Places along a course, in CSS px. */
export const along = (course: (t: number) => Place, count = 60): Place[] =>
  Array.from({ length: count }, (_, k) => course(k / (count - 1)));
export const line = (a: Place, b: Place, count = 40): Place[] =>
  along((t) => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t], count);

/** A real pen through the DevTools protocol, with pressure. */
export class Pen {
  /** s since the epoch at which the next event is said to have happened. */
  private clock: number | undefined;
  /** Where a paced hand has got to, on the same clock. */
  private pacedTo: number | undefined;

  private constructor(private readonly session: CDPSession) {}

  static async for(page: Page): Promise<Pen> {
    return new Pen(await page.context().newCDPSession(page));
  }

  private send(type: string, [x, y]: Place, force: number, buttons: number): Promise<unknown> {
    return this.session.send('Input.dispatchMouseEvent', {
      ...{ type: type as 'mouseMoved', x, y, force, buttons, button: 'left', pointerType: 'pen' },
      ...{ clickCount: type === 'mousePressed' ? 1 : 0, tiltX: 20, tiltY: -10 },
      ...(this.clock !== undefined && { timestamp: this.clock }),
    });
  }

  async down(place: Place, force = 0.5): Promise<void> {
    await this.send('mousePressed', place, force, 1);
  }

  /** Moves are not awaited one by one, so that they arrive coalesced, as from a real pen. */
  async move(places: readonly Place[], pressure: (t: number) => number = () => 0.5): Promise<void> {
    await Promise.all(
      places.map((place, k) => this.send('mouseMoved', place, pressure(k / Math.max(1, places.length - 1)), 1)),
    );
  }

  async up(place: Place): Promise<void> {
    await this.send('mouseReleased', place, 0, 0);
  }

  /** Draws as a hand does that needs `beat` ms from place to place, and stays down. */
  async paced(places: readonly Place[], pressure: (t: number) => number = () => 0.5, beat = 8): Promise<void> {
    this.pacedTo = undefined;
    // Room for what comes after: what is said to have happened later must lie in the past too.
    this.clock = Date.now() / 1000 - (3 * beat * places.length) / 1000;
    await this.down(places[0], pressure(0));
    await this.goesOn(places.slice(1), pressure, beat);
  }

  /** Goes on from where a paced hand was, without a rest. */
  async goesOn(places: readonly Place[], pressure: (t: number) => number = () => 0.5, beat = 8): Promise<void> {
    let clock = this.pacedTo ?? this.clock ?? Date.now() / 1000;
    // Not awaited one by one: a driver that stalls in between would make the hand rest.
    const moves = places.map((place, k) => {
      this.clock = clock += beat / 1000;
      return this.send('mouseMoved', place, pressure((k + 1) / places.length), 1);
    });
    await Promise.all(moves);
    this.pacedTo = clock;
    this.clock = undefined;
  }

  async draw(
    places: readonly Place[],
    pressure: (t: number) => number = (t) => 0.2 + 0.7 * Math.sin(Math.PI * t),
  ): Promise<void> {
    await this.down(places[0], pressure(0));
    await this.move(places.slice(1), pressure);
    await this.up(places[places.length - 1]);
  }
}

/** Fingers through the DevTools protocol. */
export class Fingers {
  private constructor(private readonly session: CDPSession) {}

  static async for(page: Page): Promise<Fingers> {
    return new Fingers(await page.context().newCDPSession(page));
  }

  private send(type: 'touchStart' | 'touchMove' | 'touchEnd', places: readonly Place[]): Promise<unknown> {
    return this.session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: places.map(([x, y], id) => ({ x, y, id })),
    });
  }

  async draw(places: readonly Place[]): Promise<void> {
    await this.send('touchStart', [places[0]]);
    for (const place of places.slice(1)) await this.send('touchMove', [place]);
    await this.send('touchEnd', []);
  }

  /** Draws without a rest: a driver that stalls between two events would make a long press of it. */
  async flick(places: readonly Place[]): Promise<void> {
    await Promise.all([
      this.send('touchStart', [places[0]]),
      ...places.slice(1).map((place) => this.send('touchMove', [place])),
      this.send('touchEnd', []),
    ]);
  }

  /** One finger drags along a way; then a second one lies down beside while the first goes on. */
  async dragAndCarry(way: readonly Place[], second: Place, carried: readonly Place[]): Promise<void> {
    await this.send('touchStart', [way[0]]);
    for (const place of way.slice(1)) await this.send('touchMove', [place]);
    await this.send('touchStart', [way[way.length - 1], second]);
    for (const place of carried) await this.send('touchMove', [place, second]);
    await this.send('touchEnd', []);
  }

  /** Two fingers down, moved once, and left there. */
  async hold(from: readonly [Place, Place], to: readonly [Place, Place]): Promise<void> {
    await this.send('touchStart', [from[0]]);
    await this.send('touchStart', from);
    await this.send('touchMove', to);
  }

  async rest(place: Place): Promise<void> {
    await this.send('touchStart', [place]);
  }

  async lift(): Promise<void> {
    await this.send('touchEnd', []);
  }

  /** Two fingers down, moved together in steps, and up. */
  async pinch(from: readonly [Place, Place], to: readonly [Place, Place], steps = 12): Promise<void> {
    await this.send('touchStart', [from[0]]);
    await this.send('touchStart', from);
    for (let k = 1; k <= steps; k++) {
      const t = k / steps;
      await this.send(
        'touchMove',
        from.map(([x, y], j) => [x + (to[j][0] - x) * t, y + (to[j][1] - y) * t] as const),
      );
    }
    await this.send('touchEnd', []);
  }
}

export async function mouseDraw(page: Page, places: readonly Place[]): Promise<void> {
  await page.mouse.move(...places[0]);
  await page.mouse.down();
  for (const place of places.slice(1)) await page.mouse.move(...place);
  await page.mouse.up();
}
