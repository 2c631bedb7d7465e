import decodeAvifFile, { init as initAvif } from '@jsquash/avif/decode.js';
import decodeJpegFile, { init as initJpeg } from '@jsquash/jpeg/decode.js';
import decodeJxlFile, { init as initJxl } from '@jsquash/jxl/decode.js';
import encodeJpegFile, { init as initJpegEncoder } from '@jsquash/jpeg/encode.js';
import decodeWebpFile, { init as initWebp } from '@jsquash/webp/decode.js';
import { loadedPart, Problem, Unloaded } from '@/core/proof/problem';
import { type RawDecoder, type RgbaDecoder } from '@/core/codecs/read/source';
import type { JpegTurbo } from '@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs';
import type { Lcms } from 'lcms-wasm';
import { decodePlainJpeg } from './decodePlainJpeg';
import { encodeBaseline } from './encodeBaseline';
import { profileOpener } from './profileOpener';
import { type Platform } from './platform';

/** Compiled modules of the codecs. */
export type CodecModules = Readonly<
  Record<'jpeg' | 'jpegEncoder' | 'webp' | 'avif' | 'jxl', () => Promise<WebAssembly.Module>>
>;

/** How the platform loads what it does not bundle. */
export interface PlatformParts {
  readonly modules: CodecModules;
  readonly loadLcms: () => Promise<Lcms>;
  readonly loadTurbo: () => Promise<JpegTurbo>;
  readonly decodeRaw?: RawDecoder;
  /** one file of the rendered scene; undefined when there is none by that name */
  readonly readStrip: (file: string) => Promise<Uint8Array | undefined>;
}

/** what is wrong with a file is told in a sentence of its own, not by the codec's chatter */
const SILENT = { print: () => undefined, printErr: () => undefined };

const MOST_STRIPS = 40;

/** Loads a part once, at its first need; one that did not come is asked for again the next time. */
function once<T>(part: string, run: () => Promise<T>): () => Promise<T> {
  let made: Promise<T> | undefined;
  return () => {
    made ??= loadedPart(part, run);
    made.catch(() => (made = undefined));
    return made;
  };
}

/** The codecs, the same builds in the browser and in Node, so that both decode the same pixels. */
export function codecPlatform({
  modules,
  loadLcms,
  loadTurbo,
  decodeRaw,
  readStrip,
}: PlatformParts): Platform {
  // the codecs make their result with this browser class
  (globalThis as { ImageData?: unknown }).ImageData ??= PlainImageData;
  const ready = (
    name: keyof CodecModules,
    part: string,
    init: (module: WebAssembly.Module, options: typeof SILENT) => unknown,
  ): (() => Promise<void>) =>
    once(part, async () => {
      await init(await modules[name](), SILENT);
    });
  const decoder =
    (load: () => Promise<void>, decode: (buffer: ArrayBuffer) => Promise<ImageData>): RgbaDecoder =>
    async (bytes) => {
      await load();
      const { width, height, data } = await decode(new Uint8Array(bytes).buffer);
      return { width, height, data };
    };
  const decodeJpeg = decoder(ready('jpeg', 'the reader of JPEG', initJpeg), (b) => decodeJpegFile(b));
  const turbo = once('the writer of JPEG', loadTurbo);
  const reader = once('the reader of JPEG', loadTurbo);
  const encoderReady = ready('jpegEncoder', 'the writer of JPEG', initJpegEncoder);
  return {
    decodeJpeg: async (bytes, form, allocate) => {
      if (form !== 'other')
        try {
          // a decoder's memory never becomes smaller: what a large file took goes with it, unless more of them follow
          const isKept = form === 'plain' || allocate !== undefined;
          return decodePlainJpeg(
            await (isKept ? reader() : loadedPart('the reader of JPEG', loadTurbo)),
            bytes,
            allocate,
          );
        } catch (thrown) {
          if (thrown instanceof Unloaded) throw thrown;
          // the other one takes more time and memory, and more that is wrong
        }
      return { ...(await decodeJpeg(bytes)), channels: 4 };
    },
    decodeWebp: decoder(ready('webp', 'the reader of WebP', initWebp), (b) => decodeWebpFile(b)),
    decodeAvif: decoder(ready('avif', 'the reader of AVIF', initAvif), async (b) => {
      const picture = await decodeAvifFile(b);
      if (!picture) throw new Error('no picture');
      return picture;
    }),
    decodeJxl: decoder(ready('jxl', 'the reader of JPEG XL', initJxl), (b) => decodeJxlFile(b)),
    decodeRaw,
    openProfile: profileOpener(once('the colour engine', loadLcms)),
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
      if (form === 'baseline') return encodeBaseline(await turbo(), data, width, height, quality);
      await encoderReady();
      const picture = { data: opaque(data), width, height, colorSpace: 'srgb' } as unknown as ImageData;
      return new Uint8Array(
        await encodeJpegFile(picture, {
          quality,
          auto_subsample: false,
          chroma_subsample: quality >= 85 ? 1 : 2,
        }),
      );
    },
  };
}

/** R G B to R G B A. */
function opaque(data: Uint8Array): Uint8ClampedArray {
  const rgba = new Uint8ClampedArray((data.length / 3) * 4);
  for (let i = 0, o = 0; o < rgba.length; i += 3, o += 4) {
    rgba[o] = data[i];
    rgba[o + 1] = data[i + 1];
    rgba[o + 2] = data[i + 2];
    rgba[o + 3] = 255;
  }
  return rgba;
}

class PlainImageData {
  constructor(
    readonly data: Uint8ClampedArray,
    readonly width: number,
    readonly height: number,
  ) {}
}
