import { createCustomEqual } from 'fast-equals';

type Fields = Readonly<Record<string, unknown>>;

const saidIn = (fields: Fields): string[] => Object.keys(fields).filter((name) => fields[name] !== undefined);

/**
 * Whether two plain values (objects, arrays, typed arrays, numbers, strings) hold the same. 0 and −0 are one, since what was
 * packed comes back without the sign; a field without a value is as good as none.
 */
export const sameValue: (a: unknown, b: unknown) => boolean = createCustomEqual({
  createCustomConfig: () => ({
    areNumbersEqual: (a: number, b: number) => a === b || (Number.isNaN(a) && Number.isNaN(b)),
    areObjectsEqual: (a: Fields, b: Fields, state) => {
      const names = saidIn(a);
      return (
        names.length === saidIn(b).length &&
        names.every((name) => name in b && state.equals(a[name], b[name], name, name, a, b, state))
      );
    },
  }),
});
