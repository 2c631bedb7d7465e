declare module 'fft.js' {
  /** Radix-4 FFT of a power-of-two size; complex arrays are interleaved. */
  export default class FFT {
    constructor(size: number);
    transform(out: Float64Array, data: Float64Array): void;
    inverseTransform(out: Float64Array, data: Float64Array): void;
  }
}
