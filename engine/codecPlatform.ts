import decodeAvifFile, { init as initAvif } from '@jsquash/avif/decode.js';
import decodeJpegFile, { init as initJpeg } from '@jsquash/jpeg/decode.js';
import encodeJpegFile, { init as initJpegEncoder } from '@jsquash/jpeg/encode.js';
import decodeWebpFile, { init as initWebp } from '@jsquash/webp/decode.js';
import { Problem } from '@/core/proof/problem';
import { type RawDecoder, type RgbaDecoder } from '@/core/codecs/read/source';
import type { Lcms } from 'lcms-wasm';
import { profileOpener } from './profileOpener';
import { type Platform } from './platform';

/** Compiled modules of the codecs, where the platform cannot load them by address itself (Node). */
export type CodecModules = Readonly<
  Record<'jpeg' | 'jpegEncoder' | 'webp' | 'avif', () => Promise<WebAssembly.Module>>
>;

/** How the platform loads what it does not bundle. */
export interface PlatformParts {
  readonly modules?: CodecModules;
  readonly loadLcms: () => Promise<Lcms>;
  readonly decodeRaw?: RawDecoder;
  /** one file of the rendered scene; undefined when there is none by that name */
  readonly readStrip: (file: string) => Promise<Uint8Array | undefined>;
}

const MOST_STRIPS = 40;

/** Runs something once, at its first need. */
function once<T>(run: () => Promise<T>): () => Promise<T> {
  let made: Promise<T> | undefined;
  return () => (made ??= run());
}

/** The codecs, the same builds in the browser and in Node, so that both decode the same pixels. */
export function codecPlatform({ modules, loadLcms, decodeRaw, readStrip }: PlatformParts): Platform {
  // the codecs make their result with this browser class
  (globalThis as { ImageData?: unknown }).ImageData ??= PlainImageData;
  const ready = (
    name: keyof CodecModules,
    init: (module: WebAssembly.Module) => unknown,
  ): (() => Promise<void>) =>
    once(async () => {
      if (modules) await init(await modules[name]());
    });
  const decoder =
    (load: () => Promise<void>, decode: (buffer: ArrayBuffer) => Promise<ImageData>): RgbaDecoder =>
    async (bytes) => {
      await load();
      const { width, height, data } = await decode(new Uint8Array(bytes).buffer);
      return { width, height, data };
    };
  const encoderReady = ready('jpegEncoder', initJpegEncoder);
  return {
    decodeJpeg: decoder(ready('jpeg', initJpeg), (b) => decodeJpegFile(b)),
    decodeWebp: decoder(ready('webp', initWebp), (b) => decodeWebpFile(b)),
    decodeAvif: decoder(ready('avif', initAvif), async (b) => {
      const picture = await decodeAvifFile(b);
      if (!picture) throw new Error('no picture');
      return picture;
    }),
    decodeRaw,
    openProfile: profileOpener(once(loadLcms)),
    readScene: async (pass) => {
      const strips: Uint8Array[] = [];
      for (let k = 0; k < MOST_STRIPS; k++) {
        const strip = await readStrip(`${pass}.${k}.exr`);
        if (!strip) break;
        strips.push(strip);
      }
      if (strips.length === 0)
        throw new Problem(
          'The stand-in scene is not on this server. Run “npm run demo:render”, then try again.',
        );
      return strips;
    },
    encodeJpeg: async (data, width, height, quality, form) => {
      await encoderReady();
      const picture = { data, width, height, colorSpace: 'srgb' } as unknown as ImageData;
      return new Uint8Array(
        await encodeJpegFile(picture, {
          quality,
          baseline: form === 'baseline',
          auto_subsample: false,
          chroma_subsample: quality >= 85 ? 1 : 2,
        }),
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
