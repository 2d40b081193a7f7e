/**
 * What fills a part of the paper: closed rings of x, y pairs, page px, filled together by one rule. `of` names what the rings
 * are made of: shapes made of the very same have the same rings, so that a path of them need not be made twice.
 */
export interface MarkShape {
  readonly of: readonly [thing: object, ...more: readonly unknown[]];
  readonly rule: 'nonzero' | 'evenodd';
  /** The rings, straying by no more than `tolerance` page px. */
  rings(tolerance: number): readonly Float64Array[];
}

/** What lies on the paper. */
export interface Mark extends MarkShape {
  /** `#rrggbb` */
  readonly color: string;
  /** 0..1 */
  readonly opacity: number;
  /** Only what lies in here shows. */
  readonly clip?: MarkShape;
  /** It takes away what lies beneath it on its layer, in place of inking. */
  readonly cuts?: true;
}

/** Whether two shapes have the same rings at any tolerance. */
export function isSameShape(a: MarkShape, b: MarkShape): boolean {
  if (a === b) return true;
  if (a.of.length !== b.of.length) return false;
  for (let k = 0; k < a.of.length; k++) if (a.of[k] !== b.of[k]) return false;
  return true;
}
