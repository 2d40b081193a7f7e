import FFT from 'fft.js';

/** The power of a square picture at every pair of whole frequencies, rows of `size`, by a library's transform; its mean is left out. */
export function spectrumOf(picture: ArrayLike<number>, size: number): Float64Array {
  const fft = new FFT(size);
  const mean = Array.from(picture).reduce((sum, value) => sum + value, 0) / (size * size);
  const re = Float64Array.from(picture, (value) => value - mean);
  const im = new Float64Array(size * size);
  const line = (start: number, step: number) => {
    const data = fft.createComplexArray();
    const out = fft.createComplexArray();
    for (let k = 0; k < size; k++) {
      data[2 * k] = re[start + k * step];
      data[2 * k + 1] = im[start + k * step];
    }
    fft.transform(out, data);
    for (let k = 0; k < size; k++) {
      re[start + k * step] = out[2 * k];
      im[start + k * step] = out[2 * k + 1];
    }
  };
  for (let row = 0; row < size; row++) line(row * size, 1);
  for (let column = 0; column < size; column++) line(column, size);
  return re.map((value, k) => value * value + im[k] * im[k]);
}
