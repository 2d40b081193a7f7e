import { Problem } from '../problem';

/** A whole number of a query, by its name. Throws a 400 for anything else. */
export function wholeNumber(value: unknown, name: string): number {
  if (typeof value !== 'string' || !/^\d{1,15}$/.test(value))
    throw new Problem(400, 'The request is not filled in right', `"${name}" needs a whole number.`);
  return Number(value);
}
