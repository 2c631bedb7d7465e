import { checkSize } from '../fileLimits';
import { type RgbaDecoder, type Source } from './source';

/** width to height, by its code in the header of sizes */
const RATIOS = [
  [1, 1],
  [6, 5],
  [4, 3],
  [3, 2],
  [16, 9],
  [5, 4],
  [2, 1],
] as const;
/** bits of a size, by its code */
const SIZE_BITS = [9, 13, 18, 30];
const BOX_HEAD = 8;

/**
 * Reads a JPEG XL (ISO/IEC 18181): the size from its header first. The decoder turns it upright and to sRGB of 8 bits.
 */
export async function readJxl(file: string, bytes: Uint8Array, decode: RgbaDecoder): Promise<Source> {
  const boxes = boxesOf(bytes);
  const stated = statedSize(codestream(bytes, boxes));
  checkSize(file, stated.width, stated.height, bytes.length);
  const { width, height, data } = await decode(bytes);
  checkSize(file, width, height, bytes.length);
  // four bytes say where the EXIF begins within its box (ISO/IEC 18181-2)
  const exif = boxes.find((box) => box.name === 'Exif')?.body.subarray(4);
  return {
    ...{ width, height, channels: 4, space: 'rgb', white: 255, data, upright: true },
    ...(exif && exif.length > 8 ? { exif } : {}),
  };
}

interface Box {
  readonly name: string;
  readonly body: Uint8Array;
}

/** The boxes of a file that is a container; none of one that is a bare codestream. */
function boxesOf(bytes: Uint8Array): Box[] {
  const boxes: Box[] = [];
  if (bytes[0] === 0xff) return boxes;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 0; at + BOX_HEAD <= bytes.length;) {
    const length = view.getUint32(at);
    // 1: a length of 64 bits follows, 0: up to the end
    const head = length === 1 ? 16 : BOX_HEAD;
    if (at + head > bytes.length) break;
    const whole =
      length === 1 ? Number(view.getBigUint64(at + 8)) : length === 0 ? bytes.length - at : length;
    if (whole < head) break;
    const name = String.fromCharCode(...bytes.subarray(at + 4, at + BOX_HEAD));
    boxes.push({ name, body: bytes.subarray(at + head, at + whole) });
    at += whole;
  }
  return boxes;
}

/** @throws Error when there is none */
function codestream(bytes: Uint8Array, boxes: readonly Box[]): Uint8Array {
  const whole = boxes.find((box) => box.name === 'jxlc')?.body;
  // a stream in parts has four bytes before each
  const part = boxes.find((box) => box.name === 'jxlp')?.body.subarray(4);
  const stream = boxes.length === 0 ? bytes : (whole ?? part);
  if (stream?.[0] !== 0xff || stream[1] !== 0x0a) throw new Error('no codestream');
  return stream;
}

/** The header of sizes (ISO/IEC 18181-1, B.2.1): bits from the lowest on. */
function statedSize(stream: Uint8Array): { width: number; height: number } {
  let at = 16;
  const bits = (count: number): number => {
    let value = 0;
    for (let b = 0; b < count; b++, at++) value += ((stream[at >> 3] >> (at & 7)) & 1) * 2 ** b;
    return value;
  };
  const isSmall = bits(1) === 1;
  const size = (): number => (isSmall ? 8 * (bits(5) + 1) : bits(SIZE_BITS[bits(2)]) + 1);
  const height = size();
  const ratio = bits(3);
  if (ratio === 0) return { width: size(), height };
  const [across, down] = RATIOS[ratio - 1];
  return { width: Math.floor((height * across) / down), height };
}
