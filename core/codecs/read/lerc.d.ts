/** The part of the reader of LERC that is used; the package brings no types. */
declare module 'lerc' {
  interface LercPicture {
    readonly width: number;
    readonly height: number;
    /** one a band; samples of a pixel beside each other where that was asked for */
    readonly pixels: readonly (
      | Int8Array
      | Uint8Array
      | Int16Array
      | Uint16Array
      | Int32Array
      | Uint32Array
      | Float32Array
      | Float64Array
    )[];
  }
  const Lerc: {
    readonly decode: (
      blob: ArrayBufferLike,
      options: { readonly returnPixelInterleavedDims: boolean },
    ) => LercPicture;
  };
  export default Lerc;
}
