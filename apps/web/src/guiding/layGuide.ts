import { fitSpine, type Spine } from '@true-nib/core/curve';
import { halfSize, GUIDE_LIMITS, type GuideEntity, type GuideKind, type GuideShape } from '@true-nib/core/guides';
import { TEMPLATES, type Template } from '@true-nib/core/templates';
import { distance, type Point } from '@true-nib/core/math';
import { byOrder, ofKind, orderBetween, type Page, freeName } from '@true-nib/core/page';
import { inPanel } from '../board';
import { newId } from '../session';

export const GUIDE_NAMES: Readonly<Record<GuideKind, string>> = {
  straightedge: 'Straightedge',
  batten: 'Batten',
  template: 'Template',
  plane: 'Plane shape',
  rails: 'Rails',
  ripples: 'Ripples',
  rays: 'Rays',
  echo: 'Echo',
  frame: 'Perspective frame',
  mirror: 'Mirror',
  wheel: 'Wheel',
  fold: 'Mirror in depth',
};

/** The kinds that a drag with the guide tool lays down; the others are laid down in depth. */
export const LAID_KINDS: readonly GuideKind[] = [
  ...(['straightedge', 'batten', 'template', 'rails', 'ripples', 'rays', 'echo', 'mirror', 'wheel'] as const),
];

/** What the next drag does, by the kind of guide that is laid down. */
export const LAYING_IN_WORDS: Readonly<Record<GuideKind, string>> = {
  straightedge: 'Drag from end to end.',
  batten: 'Draw the curve.',
  template: 'Touch where it goes, or drag to its size.',
  plane: 'Drag from corner to corner on the plane.',
  frame: 'Choose a frame, or sight one.',
  fold: 'Touch where the axis stands.',
  rails: 'Drag along the direction.',
  ripples: 'Drag from the middle outwards.',
  rays: 'Touch where all lines meet.',
  echo: 'Draw the curve to go along.',
  mirror: 'Drag along the axis.',
  wheel: 'Touch the middle, drag to the first spoke.',
};

const MM = 25.4;
/** Page px that a drawn curve may be eased by, per px of the screen. */
const EASE = 2;

/** A drag over the page that lays a guide down. Lengths in page px, angles in radians. */
interface Laying {
  readonly course: readonly Point[];
  readonly length: number;
  readonly angle: number;
  /** It is too short to tell a direction or a size. */
  readonly isTap: boolean;
  readonly page: Page;
  readonly template: Template | undefined;
  /** Page px per CSS px. */
  readonly seen: number;
}

/** What a drag over the page lays down; nothing where it is too short to say. `seen` is page px per CSS px. */
export function laidShape(
  kind: GuideKind,
  course: readonly Point[],
  page: Page,
  template: Template | undefined,
  seen: number,
): GuideShape | undefined {
  const [a, b] = [course[0], course[course.length - 1]];
  const length = distance(a, b);
  const isTap = length < 8 * seen;
  const angle = isTap ? 0 : Math.atan2(b.y - a.y, b.x - a.x);
  return LAID[kind]?.({ course, length, angle, isTap, page, template, seen });
}

/** What a drag lays down of each kind; those that only a frame lays down have none. */
const LAID: {
  readonly [K in GuideKind]: ((drag: Laying) => Extract<GuideShape, { readonly kind: K }> | undefined) | undefined;
} = {
  straightedge({ course, length, angle, isTap, page }) {
    const [a, b] = [course[0], course[course.length - 1]];
    // As wide as a ruler: 30 mm on paper, less on small pages.
    const width = Math.min((30 * page.size.ppi) / MM, page.size.width / 6);
    if (isTap) return { kind: 'straightedge', ...placeOf(a), angle: 0, length: page.size.width / 2, width };
    const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
    return { kind: 'straightedge', ...middle, angle, length: Math.max(GUIDE_LIMITS.length.least, length), width };
  },
  rails: ({ course, angle }) => ({ kind: 'rails', ...placeOf(course[0]), angle }),
  ripples: ({ course, angle, isTap }) => ({
    kind: 'ripples',
    ...placeOf(course[0]),
    ratio: isTap ? 1 : 0.5,
    angle,
  }),
  rays: ({ course }) => ({ kind: 'rays', ...placeOf(course[0]) }),
  mirror: ({ course, angle, isTap }) => ({
    kind: 'mirror',
    ...placeOf(course[0]),
    angle: isTap ? Math.PI / 2 : angle,
    joins: false,
  }),
  wheel: ({ course, angle, isTap }) => ({
    kind: 'wheel',
    ...placeOf(course[0]),
    angle: isTap ? -Math.PI / 2 : angle,
    sectors: 6,
    reflects: false,
    joins: false,
  }),
  batten: (drag) => (drag.isTap ? undefined : { kind: 'batten', course: eased(drag) }),
  echo: (drag) => (drag.isTap ? undefined : { kind: 'echo', course: eased(drag) }),
  plane: undefined,
  frame: undefined,
  fold: undefined,
  template({ course, length, isTap, page, template }) {
    const rings = template?.rings ?? TEMPLATES[0].rings;
    const [w] = halfSize(rings);
    const scale = isTap ? page.size.width / 5 / w : Math.max(0.02, length / w);
    return { kind: 'template', rings, place: { ...placeOf(course[0]), scaleX: scale, scaleY: scale, angle: 0 } };
  },
};

/** A place alone: a sample of the hand has more. */
const placeOf = ({ x, y }: Point): Point => ({ x, y });

const eased = ({ course, seen }: Laying): Spine =>
  fitSpine(
    course.map((p) => ({ x: p.x, y: p.y, width: 1 })),
    EASE * seen,
  );

/** A new guide on top of the list, with a name and a colour of its own. */
export function newGuide(page: Page, shape: GuideShape, name = GUIDE_NAMES[shape.kind]): GuideEntity {
  const guides = ofKind(page, 'guide');
  const own = freeName(
    guides.map((guide) => guide.name),
    name,
  );
  const last = guides
    .map(({ order }) => order)
    .sort()
    .at(-1);
  return {
    ...{ kind: 'guide', id: newId(), order: orderBetween(last, undefined), name: own, seen: true, acting: true },
    ...{ locked: false, tethers: false, reach: 'all', hue: guides.length % GUIDE_LIMITS.hues, shape },
  };
}

/** The guides of a page in the order of their list. */
export const guidesOf = (page: Page): GuideEntity[] => ofKind(page, 'guide').sort(byOrder);

/** A copy of a guide, a little beside it. */
export const copyOf = (page: Page, guide: GuideEntity, shape: GuideShape): GuideEntity => ({
  ...newGuide(page, shape, guide.name),
  ...{ seen: guide.seen, acting: guide.acting, tethers: guide.tethers, reach: guide.reach, hue: guide.hue },
  ...inPanel(guide.panelId),
});
