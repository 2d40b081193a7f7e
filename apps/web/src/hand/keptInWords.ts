/** What to say of lines that were let be. */
export const keptInWords = (kept: number): string =>
  kept === 1
    ? 'One line was worked on since: it stays as it is.'
    : `${kept} lines were worked on since: they stay as they are.`;
