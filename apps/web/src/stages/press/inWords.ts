/** Bars as a sentence, for who does not see them. */
export const inWords = (what: string, bars: readonly { readonly label: string; readonly value: number }[]): string =>
  bars.map(({ label, value }) => `${what} ${label}: ${Math.round(value)} %`).join(', ');
