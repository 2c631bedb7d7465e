/** The part of the quick JPEG codec that is used; the package brings no types. */
declare module '@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs' {
  interface FrameInfo {
    readonly width: number;
    readonly height: number;
    readonly bitsPerSample: number;
    readonly componentCount: number;
    readonly isSigned: boolean;
  }
  interface JpegTurboEncoder {
    /** room for the samples, in the encoder's own memory */
    getDecodedBuffer: (frame: FrameInfo) => Uint8Array;
    setQuality: (quality: number) => void;
    setProgressive: (progressive: boolean) => void;
    /** 0: 4:4:4, 1: 4:2:2, 2: 4:2:0 */
    setSubSampling: (subsampling: 0 | 1 | 2) => void;
    encode: () => void;
    /** the file, until the encoder is used again */
    getEncodedBuffer: () => Uint8Array;
    delete: () => void;
  }
  interface JpegTurboDecoder {
    /** room for the file, in the decoder's own memory */
    getEncodedBuffer: (length: number) => Uint8Array;
    decode: () => void;
    /** the samples, until the decoder is used again */
    getDecodedBuffer: () => Uint8Array;
    getFrameInfo: () => FrameInfo;
    delete: () => void;
    /** the binding's record of where the decoder lies in its memory */
    readonly $$?: { readonly ptr: number };
  }
  export interface JpegTurbo {
    /** the decoder's memory */
    readonly HEAPU8: Uint8Array;
    readonly HEAPU32: Uint32Array;
    readonly JPEGDecoder: new () => JpegTurboDecoder;
    readonly JPEGEncoder: new () => JpegTurboEncoder;
  }
  const load: (options?: { readonly locateFile?: (name: string) => string }) => Promise<JpegTurbo>;
  export default load;
}
