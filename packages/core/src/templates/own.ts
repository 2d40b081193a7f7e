import { segmentCount, type Spine } from '../curve';
import { checkSpine, PageError } from '../gate';
import { GUIDE_LIMITS } from '../guides';
import { centredRings, type Template } from './templates';

/** Cubics that an outline of one's own may have in all: more would make every line along it slow. */
const MOST_SEGMENTS = 4_000;
const MOST_NAME = 80;

/**
 * A template of one's own from courses, about their common middle and 400 px across. Throws a PageError for none, for more than
 * 64, and for more than 4,000 nodes in all.
 */
export function ownTemplate(id: string, name: string, courses: readonly Spine[]): Template {
  if (courses.length === 0) throw new PageError('A template needs at least one outline.');
  if (courses.length > GUIDE_LIMITS.rings)
    throw new PageError(`A template has at most ${GUIDE_LIMITS.rings} outlines; ${courses.length} came.`);
  const nodes = courses.reduce((sum, course) => sum + segmentCount(course), 0);
  if (nodes > MOST_SEGMENTS)
    throw new PageError(`A template has at most ${MOST_SEGMENTS} nodes; ${nodes} came. Take a simpler outline.`);
  const words = name.trim().slice(0, MOST_NAME);
  return { id, group: 'Own', name: words === '' ? 'Own outline' : words, rings: centredRings(courses) };
}

/** The template of one's own in `value`. Throws a PageError that says what is wrong with it. */
export function checkOwnTemplate(value: unknown): Template {
  if (typeof value !== 'object' || value === null) throw new PageError('A template is an object with named fields.');
  const { id, name, rings }: Record<string, unknown> = Object.fromEntries(Object.entries(value));
  if (typeof id !== 'string' || !/^[\w-]{1,64}$/.test(id))
    throw new PageError('A template needs an id of letters and digits.');
  if (typeof name !== 'string') throw new PageError('A template needs a name.');
  if (!Array.isArray(rings)) throw new PageError('The "rings" of a template are a list of outlines.');
  return ownTemplate(id, name, rings.map(checkSpine));
}

/** A template as plain JSON. */
export const templateToJson = ({ id, name, rings }: Template) => ({
  ...{ id, name },
  rings: rings.map(({ points, closed }) => ({ points: [...points], closed })),
});
