import FFT from 'fft.js';

/** A complex picture, real and imaginary parts interleaved, both sides powers of two. */
export interface Spectrum {
  readonly width: number;
  readonly height: number;
  readonly data: Float64Array;
}

/** Smallest power of two that is not below n. */
export function powerOfTwo(n: number): number {
  let k = 1;
  while (k < n) k <<= 1;
  return k;
}

const plans = new Map<number, FFT>();
function plan(size: number): FFT {
  const known = plans.get(size);
  if (known) return known;
  const made = new FFT(size);
  plans.set(size, made);
  return made;
}

/** Two-dimensional Fourier transform in place; the inverse is scaled by 1/(width·height). */
export function fourier(s: Spectrum, inverse: boolean): void {
  const { width, height, data } = s;
  const run = (fft: FFT, out: Float64Array, input: Float64Array): void =>
    inverse ? fft.inverseTransform(out, input) : fft.transform(out, input);
  const across = plan(width);
  const lineIn = new Float64Array(2 * width);
  const lineOut = new Float64Array(2 * width);
  for (let y = 0; y < height; y++) {
    const at = y * width * 2;
    lineIn.set(data.subarray(at, at + 2 * width));
    run(across, lineOut, lineIn);
    data.set(lineOut, at);
  }
  const down = plan(height);
  const columnIn = new Float64Array(2 * height);
  const columnOut = new Float64Array(2 * height);
  for (let x = 0; x < width; x++) {
    for (let y = 0; y < height; y++) {
      columnIn[2 * y] = data[2 * (y * width + x)];
      columnIn[2 * y + 1] = data[2 * (y * width + x) + 1];
    }
    run(down, columnOut, columnIn);
    for (let y = 0; y < height; y++) {
      data[2 * (y * width + x)] = columnOut[2 * y];
      data[2 * (y * width + x) + 1] = columnOut[2 * y + 1];
    }
  }
}

/** conj(a)·b, element by element. */
export function crossSpectrum(a: Spectrum, b: Spectrum): Spectrum {
  const data = new Float64Array(a.data.length);
  for (let i = 0; i < data.length; i += 2) {
    data[i] = b.data[i] * a.data[i] + b.data[i + 1] * a.data[i + 1];
    data[i + 1] = b.data[i + 1] * a.data[i] - b.data[i] * a.data[i + 1];
  }
  return { width: a.width, height: a.height, data };
}
