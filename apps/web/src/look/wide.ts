interface Room {
  readonly width: number;
  readonly height: number;
}

/** From this width on, CSS px, the bench stands beside the page instead of under it. */
const WIDE = 900;
/** A phone that lies on its side is at least as wide and less high, CSS px. */
const LYING = { width: 640, height: 500 } as const;

/** Whether a window is as low as that of a phone on its side: the page needs all of its height. */
export const isLying = ({ width, height }: Room): boolean => width >= LYING.width && height < LYING.height;

/** Whether the bench stands beside the page: under it there is hardly any page left where the window is low. */
export const isWide = (room: Room): boolean => room.width >= WIDE || isLying(room);

/** The same of the window as it is, for what begins before the app. */
export const isWindowWide = (): boolean => isWide({ width: innerWidth, height: innerHeight });
