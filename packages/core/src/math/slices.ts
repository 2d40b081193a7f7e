/** What slow work comes to that is told in slices, in one go. */
export function inOneGo<T>(work: Iterator<unknown, T>): T {
  for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
}

/** Work that tells how far it is, 0..1, as a part of other work: from one share of that to another. */
export function* asPart<T>(work: Generator<number, T>, from: number, to: number): Generator<number, T> {
  for (let step = work.next(); ; step = work.next()) {
    if (step.done) return step.value;
    yield from + step.value * (to - from);
  }
}
