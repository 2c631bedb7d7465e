import { deflateSync } from 'node:zlib';
import { tiffOf } from '@/tests/tiffOf';

/** A file that is made to do harm. */
export interface HostileFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const text = (s: string): Uint8Array => new TextEncoder().encode(s);

function joined(...parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** Zeros, packed as small as they go. */
const packed = (count: number): Uint8Array =>
  new Uint8Array(deflateSync(new Uint8Array(count), { level: 9 }));

/** A PNG chunk; its checksum is not looked at before it is too late. */
function chunk(type: string, body: Uint8Array): Uint8Array {
  const out = new Uint8Array(body.length + 12);
  new DataView(out.buffer).setUint32(0, body.length);
  out.set(text(type), 4);
  out.set(body, 8);
  return out;
}

function pngOf(width: number, height: number, ...chunks: readonly Uint8Array[]): Uint8Array {
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header.set([8, 2, 0, 0, 0], 8);
  const signature = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
  return joined(signature, chunk('IHDR', header), ...chunks, chunk('IEND', new Uint8Array()));
}

/** A progressive JPEG that says it is so large and goes over the picture so many times with nothing. */
function jpegOf(width: number, height: number, scans: number): Uint8Array {
  const frame = [0xff, 0xc2, 0, 11, 8, height >> 8, height & 255, width >> 8, width & 255, 1, 1, 0x11, 0];
  const quantisation = [0xff, 0xdb, 0, 67, 0, ...Array<number>(64).fill(1)];
  const table = [0xff, 0xc4, 0, 20, 0x10, 1, ...Array<number>(15).fill(0), 0];
  const scan = [0xff, 0xda, 0, 8, 1, 1, 0, 1, 63, 0, 0, 0];
  const body: number[] = [0xff, 0xd8, ...quantisation, ...frame, ...table];
  for (let k = 0; k < scans; k++) body.push(...scan);
  return Uint8Array.from([...body, 0xff, 0xd9]);
}

/** An OpenEXR header that claims a window, without a picture. */
function exrOf(side: number): Uint8Array {
  const attribute = (name: string, type: string, body: readonly number[]): Uint8Array =>
    joined(
      text(`${name}\0${type}\0`),
      new Uint8Array(Uint32Array.of(body.length).buffer),
      Uint8Array.from(body),
    );
  const int = (v: number): number[] => [...new Uint8Array(Int32Array.of(v).buffer)];
  const box = [...int(0), ...int(0), ...int(side - 1), ...int(side - 1)];
  return joined(
    Uint8Array.of(0x76, 0x2f, 0x31, 0x01, 2, 0, 0, 0),
    attribute('channels', 'chlist', [...text('R\0'), ...int(2), 0, 0, 0, 0, ...int(1), ...int(1), 0]),
    attribute('compression', 'compression', [3]),
    attribute('dataWindow', 'box2i', box),
    attribute('displayWindow', 'box2i', box),
    attribute('lineOrder', 'lineOrder', [0]),
    Uint8Array.of(0),
    new Uint8Array(8 * Math.ceil(side / 16)),
  );
}

/** LZW codes of nine to twelve bits that repeat the longest string of the table. */
function lzwRun(bytes: number): Uint8Array {
  return new Uint8Array(bytes).map((_, i) => [0x80, 0x00, 0x20, 0x50, 0x38][i % 5] ?? 0xff);
}

/** Files whose harm is worked out: little that unpacks to much, headers that claim what is not there, endless passes. */
export function hostileFiles(): HostileFile[] {
  const zeros = packed(64e6);
  const runs = new Uint8Array(16e6).map((_, i) => (i % 2 === 0 ? 129 : 7));
  return [
    { name: 'packbits.tif', bytes: tiffOf(64, 64, 32773, runs) },
    { name: 'deflate.tif', bytes: tiffOf(64, 64, 8, packed(1e9)) },
    { name: 'lzw.tif', bytes: tiffOf(64, 64, 5, lzwRun(4e6)) },
    { name: 'claims.tif', bytes: tiffOf(10900, 10900, 8, zeros.slice(0, 6000)) },
    { name: 'raw.tif', bytes: tiffOf(10900, 10900, 1, new Uint8Array(6000)) },
    { name: 'scans.jpg', bytes: jpegOf(10900, 10900, 3000) },
    { name: 'claims.jpg', bytes: jpegOf(10900, 10900, 1) },
    { name: 'passes.jpg', bytes: jpegOf(3000, 3000, 60) },
    { name: 'unpacks.png', bytes: pngOf(64, 64, chunk('IDAT', zeros)) },
    { name: 'claims.png', bytes: pngOf(10900, 10900, chunk('IDAT', packed(4e6))) },
    {
      name: 'profile.png',
      bytes: pngOf(64, 64, chunk('iCCP', joined(text('p\0\0'), zeros)), chunk('IDAT', packed(64 * 193))),
    },
    { name: 'claims.exr', bytes: exrOf(10900) },
    { name: 'claims.hdr', bytes: text('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 10900 +X 10900\n') },
    { name: 'nothing.png', bytes: new Uint8Array() },
    { name: 'text.jpg', bytes: text('<script>alert(1)</script>') },
  ];
}
