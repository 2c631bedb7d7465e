import decode, { init as initDecoder } from '@jsquash/jpeg/decode.js';
import encode, { init as initEncoder } from '@jsquash/jpeg/encode.js';
import { type Platform } from './platform';

/** Compiled modules of the codec, where the platform cannot load them by address itself (Node). */
export interface JpegModules {
  readonly decoder: WebAssembly.Module;
  readonly encoder: WebAssembly.Module;
}

/** The JPEG codec, the same build in the browser and in Node, so that both decode the same pixels. */
export function jpegPlatform(modules?: () => Promise<JpegModules>): Platform {
  let ready: Promise<void> | undefined;
  const load = (): Promise<void> =>
    (ready ??= (async () => {
      if (!modules) return;
      // the codec makes its result with this browser class
      (globalThis as { ImageData?: unknown }).ImageData ??= PlainImageData;
      const { decoder, encoder } = await modules();
      await initDecoder(decoder);
      await initEncoder(encoder);
    })());
  return {
    decodeJpeg: async (bytes) => {
      await load();
      const { width, height, data } = await decode(new Uint8Array(bytes).buffer);
      return { width, height, data: new Uint8ClampedArray(data) };
    },
    encodeJpeg: async (data, width, height, quality) => {
      await load();
      const picture = { data, width, height, colorSpace: 'srgb' } as unknown as ImageData;
      return new Uint8Array(
        await encode(picture, { quality, auto_subsample: false, chroma_subsample: quality >= 85 ? 1 : 2 }),
      );
    },
  };
}

class PlainImageData {
  constructor(
    readonly data: Uint8ClampedArray,
    readonly width: number,
    readonly height: number,
  ) {}
}
