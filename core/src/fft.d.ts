declare module 'fft.js' {
  /** Fast Fourier transform of a size that is a power of two. */
  export default class FFT {
    constructor(size: number);
    readonly size: number;
    createComplexArray(): number[];
    /** Fills the lower half of `output`, real and imaginary parts by turns, from real samples. */
    realTransform(output: number[], input: ArrayLike<number>): void;
  }
}
