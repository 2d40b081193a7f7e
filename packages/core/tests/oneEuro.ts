/** Settings of a One Euro filter: cut-offs in Hz, β in Hz per unit of speed. */
export interface OneEuroSettings {
  readonly minCutoff: number;
  readonly beta: number;
  readonly derivativeCutoff: number;
}

/** The share by which a low pass follows: α = 1 / (1 + τ · rate), τ = 1 / (2π · fc). */
export const followShare = (cutoff: number, rate: number): number => 1 / (1 + rate / (2 * Math.PI * cutoff));

/**
 * The One Euro filter in one axis at an even rate in Hz (Casiez, Roussel & Vogel, "1 € Filter", CHI 2012): a low pass whose
 * cut-off rises with the smoothed speed of the signal.
 */
export function oneEuro(values: readonly number[], rate: number, settings: OneEuroSettings): number[] {
  const { minCutoff, beta, derivativeCutoff } = settings;
  let [value, slope, before] = [values[0], 0, values[0]];
  return values.map((now, k) => {
    if (k === 0) return now;
    const raw = (now - before) * rate;
    before = now;
    slope += (raw - slope) * followShare(derivativeCutoff, rate);
    value += (now - value) * followShare(minCutoff + beta * Math.abs(slope), rate);
    return value;
  });
}
