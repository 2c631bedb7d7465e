import { type EncodedImage } from '../raster/encodedImage';
import { KERNEL_BYTES } from './kernelBytes';
import { type KernelCalls } from './kernelCalls';

/** The module with its memory, laid out from the bottom up; what is taken inside {@link borrow} is given back at its end. */
export interface Kernels extends KernelCalls {
  /** takes room for `bytes` bytes and the slack that vector loads want behind it */
  readonly take: (bytes: number) => number;
  readonly floats: (at: number, length: number) => Float32Array;
  readonly bytes: (at: number, length: number) => Uint8Array;
  readonly words: (at: number, length: number) => Uint16Array;
  /** takes room that is never given back, for tables: at most two pages in all */
  readonly keep: (bytes: number) => number;
  /** takes room for rows of codes, 8 or 16 bits or floats by white, and copies them there */
  readonly uploadCodes: (codes: EncodedImage['data']) => number;
  /** takes room for a plane and copies it there */
  readonly upload: (data: Float32Array) => number;
  /** takes room for a list of addresses, 4 bytes each, and copies it there */
  readonly addresses: (of: ArrayLike<number>) => number;
  readonly borrow: <T>(run: () => T) => T;
}

// core knows no DOM library: the little of WebAssembly that is needed
interface WasmMemory {
  readonly buffer: ArrayBuffer;
  grow: (pages: number) => number;
}
interface Wasm {
  readonly Module: new (bytes: Uint8Array) => object;
  readonly Instance: new (
    module: object,
    imports: object,
  ) => { readonly exports: KernelCalls & { memory: WasmMemory } };
}

const PAGE = 65536;
const ALIGN = 64;
const SLACK = 16;

let made: Kernels | undefined | 'none';

/** The kernels of this thread; undefined where there is no WebAssembly SIMD, and the plain TypeScript beside each kernel is used instead. */
export function kernels(): Kernels | undefined {
  made ??= instantiate() ?? 'none';
  return made === 'none' ? undefined : made;
}

function instantiate(): Kernels | undefined {
  const { WebAssembly: wasm } = globalThis as unknown as { WebAssembly?: Wasm };
  if (!wasm) return undefined;
  let exports: KernelCalls & { memory: WasmMemory };
  try {
    const binary = fromBase64(KERNEL_BYTES);
    ({ exports } = new wasm.Instance(new wasm.Module(binary), {
      env: {
        abort: () => {
          throw new Error('a kernel stopped');
        },
      },
    }));
  } catch {
    return undefined;
  }
  const { memory } = exports;
  // the module's own data lies in its first page, tables in the two behind it
  let kept = PAGE;
  let top = 3 * PAGE;
  const take = (bytes: number): number => {
    const at = top;
    top = Math.ceil((at + bytes + SLACK) / ALIGN) * ALIGN;
    const missing = Math.ceil((top - memory.buffer.byteLength) / PAGE);
    if (missing > 0) memory.grow(missing);
    return at;
  };
  // the buffer is another one after it grew, so views are made anew
  const floats = (at: number, length: number): Float32Array => new Float32Array(memory.buffer, at, length);
  return {
    ...exports,
    take,
    keep: (bytes) => {
      const at = kept;
      kept = Math.ceil((at + bytes + SLACK) / ALIGN) * ALIGN;
      if (kept > 3 * PAGE) throw new RangeError('the tables of the kernels outgrow their place');
      const missing = Math.ceil((kept - memory.buffer.byteLength) / PAGE);
      if (missing > 0) memory.grow(missing);
      return at;
    },
    floats,
    upload: (data) => {
      const at = take(data.length * 4);
      floats(at, data.length).set(data);
      return at;
    },
    uploadCodes: (codes) => {
      const at = take(codes.byteLength);
      const bytes = new Uint8Array(codes.buffer, codes.byteOffset, codes.byteLength);
      new Uint8Array(memory.buffer, at, codes.byteLength).set(bytes);
      return at;
    },
    addresses: (of) => {
      const at = take(of.length * 4);
      new Uint32Array(memory.buffer, at, of.length).set(of);
      return at;
    },
    bytes: (at, length) => new Uint8Array(memory.buffer, at, length),
    words: (at, length) => new Uint16Array(memory.buffer, at, length),
    borrow: (run) => {
      const before = top;
      try {
        return run();
      } finally {
        top = before;
      }
    },
  };
}

/** Bytes of a plane of so many floats, with the slack that vector loads want behind it; planes of this size may lie one after the other. */
export function planeBytes(count: number): number {
  return Math.ceil((count * 4 + SLACK) / ALIGN) * ALIGN;
}

/** Takes room for planes one after the other, {@link planeBytes} apart, and copies them there. @returns where the first one lies */
export function uploadPlanes(k: Kernels, planes: readonly Float32Array[]): number {
  const [{ length }] = planes;
  const plane = planeBytes(length);
  const at = k.take(planes.length * plane);
  planes.forEach((data, c) => k.floats(at + c * plane, length).set(data));
  return at;
}

/** Bytes of a sample of a picture. */
export function codeBytes(white: EncodedImage['white']): 1 | 2 | 4 {
  return white === 255 ? 1 : white === 65535 ? 2 : 4;
}

const DIGITS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Base64 (RFC 4648) to bytes; core has no platform function for it. */
function fromBase64(text: string): Uint8Array {
  const value = new Uint8Array(128);
  [...DIGITS].forEach((d, i) => (value[d.charCodeAt(0)] = i));
  const digits = text.replace(/=+$/, '');
  const out = new Uint8Array((digits.length * 3) >> 2);
  let bits = 0;
  let held = 0;
  let o = 0;
  for (const digit of digits) {
    bits = (bits << 6) | value[digit.charCodeAt(0)];
    held += 6;
    if (held < 8) continue;
    held -= 8;
    out[o++] = (bits >> held) & 255;
  }
  return out;
}
