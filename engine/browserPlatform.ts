import { type RawDecoder } from '@/core/codecs/read/source';
import { loadedPart } from '@/core/proof/problem';
import { codecPlatform } from './codecPlatform';
import { type Platform } from './platform';
import type loadTurbo from '@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs';
import type { JpegTurbo } from '@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs';
import type { Lcms } from 'lcms-wasm';

/** The part of the raw developer that is used. */
interface RawFile {
  open: (bytes: Uint8Array, settings: Readonly<Record<string, unknown>>) => Promise<void>;
  imageData: () => Promise<{ width: number; height: number; data: Uint16Array; bits: number } | undefined>;
  dispose?: () => void;
}

/** These packages bring glue that bundlers cannot take apart, so they are served as they are. */
const vendored = async <T>(path: string): Promise<T> =>
  (await import(
    /* turbopackIgnore: true */ /* webpackIgnore: true */ new URL(path, self.location.origin).href
  )) as T;

/** Linear, the camera's own white balance and matrix, no automatic brightness, ROMM primaries so that nothing clips in colour. */
const DEVELOP = {
  outputBps: 16,
  gamm: [1, 1],
  noAutoBright: true,
  useCameraWb: true,
  useCameraMatrix: 1,
  outputColor: 4,
  highlight: 0,
  userQual: 3,
} as const;

const decodeRaw: RawDecoder = async (bytes) => {
  const { default: LibRaw } = await loadedPart('the developer of camera raw', () =>
    vendored<{ default: new () => RawFile }>('/vendor/libraw/index.js'),
  );
  const raw = new LibRaw();
  try {
    await raw.open(bytes.slice(), DEVELOP);
    const picture = await raw.imageData();
    if (!picture) throw new Error('no picture');
    const { width, height, data } = picture;
    return {
      width,
      height,
      data: data instanceof Uint16Array ? data : new Uint16Array(new Uint8Array(data).buffer),
    };
  } finally {
    raw.dispose?.();
  }
};

/** A compiled module from the address that the bundler gave it. */
const fetched = (address: URL) => async (): Promise<WebAssembly.Module> => {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`no ${address.pathname}`);
  return WebAssembly.compile(await response.arrayBuffer());
};

/** Codecs of the browser's workers. */
export function browserPlatform(): Platform {
  return codecPlatform({
    modules: {
      jpeg: fetched(new URL('@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm', import.meta.url)),
      jpegEncoder: fetched(new URL('@jsquash/jpeg/codec/enc/mozjpeg_enc.wasm', import.meta.url)),
      webp: fetched(new URL('@jsquash/webp/codec/dec/webp_dec.wasm', import.meta.url)),
      avif: fetched(new URL('@jsquash/avif/codec/dec/avif_dec.wasm', import.meta.url)),
      jxl: fetched(new URL('@jsquash/jxl/codec/dec/jxl_dec.wasm', import.meta.url)),
    },
    loadLcms: async () =>
      (await vendored<{ instantiate: () => Promise<Lcms> }>('/vendor/lcms/dist/lcms.js')).instantiate(),
    loadTurbo: async (): Promise<JpegTurbo> => {
      const folder = '/vendor/turbo/';
      const { default: load } = await vendored<{ default: typeof loadTurbo }>(
        `${folder}libjpegturbowasm.mjs`,
      );
      return load({ locateFile: (name) => folder + name });
    },
    decodeRaw,
    readStrip: async (file) => {
      const response = await fetch(`/api/scene/${file}`);
      return response.ok ? new Uint8Array(await response.arrayBuffer()) : undefined;
    },
  });
}
