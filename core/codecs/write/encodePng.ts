import { encode } from 'fast-png';
import { zlibSync } from 'fflate';
import { type EncodedImage } from '../../raster/encodedImage';
import { joined } from '../read/pngChunks';
import { exifBlock, type Metadata } from './exifBlock';
import { srgbProfile } from './srgbProfile';
import { xmpPacket } from './xmpPacket';
import { zlibPacker } from './zlibPacker';

const HEADER = 8 + 25;
const text = (s: string): number[] => [...s].map((c) => c.charCodeAt(0));

/**
 * Writes a PNG of the image's own depth, 16 bit for floats, with the sRGB profile, EXIF and XMP (W3C PNG, third edition: iCCP directly
 * after IHDR, eXIf and iTXt before the picture). Rows are packed as they come, so that a large picture is never held twice.
 */
export async function encodePng(
  image: EncodedImage,
  metadata?: Metadata,
  packer = zlibPacker(),
): Promise<Uint8Array> {
  const { width, height, white } = image;
  const xmp = metadata && xmpPacket(metadata);
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header.set([white === 255 ? 8 : 16, 2], 8);
  for (const rows of filteredRows(image)) await packer.push(rows);
  const packed = await packer.end();
  return joined([
    SIGNATURE,
    chunk('IHDR', [], header),
    ...extras(metadata, xmp),
    ...packed.map((part) => chunk('IDAT', [], part)),
    chunk('IEND', [], new Uint8Array(0)),
  ]);
}

const SIGNATURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
/** bytes of rows that are packed at a time */
const BATCH = 1 << 20;
/** filter type 2 of PNG, section 9.2: the difference to the row above; photographs pack well by it and it costs one step a byte */
const UP = 2;

/** Filtered rows in batches. */
function* filteredRows(image: EncodedImage): Generator<Uint8Array> {
  const { width, height, white } = image;
  const size = width * 3 * (white === 255 ? 1 : 2);
  const each = Math.max(1, Math.floor(BATCH / (size + 1)));
  for (let from = 0; from < height; from += each)
    yield filteredBatch(image, from, Math.min(each, height - from), size);
}

/** Rows from `from` on, each behind its filter type. @param size bytes of a row */
function filteredBatch(image: EncodedImage, from: number, count: number, size: number): Uint8Array {
  const rows = new Uint8Array(count * (size + 1));
  let above = new Uint8Array(size);
  let row = new Uint8Array(size);
  if (from > 0) rowBytes(image, from - 1, above);
  for (let k = 0, o = 0; k < count; k++) {
    rowBytes(image, from + k, row);
    rows[o++] = UP;
    for (let i = 0; i < size; i++, o++) rows[o] = row[i] - above[i];
    [above, row] = [row, above];
  }
  return rows;
}

/** The samples of a row, high byte first. */
function rowBytes({ width, white, data }: EncodedImage, y: number, out: Uint8Array): void {
  const n = width * 3;
  for (let i = 0, p = y * n; i < n; i++, p++) {
    if (white === 255) {
      out[i] = data[p];
      continue;
    }
    const code = white === 65535 ? data[p] : Math.min(1, Math.max(0, data[p])) * 65535 + 0.5;
    out[2 * i] = code >> 8;
    out[2 * i + 1] = code;
  }
}

/** Writes R G B A of the samples' own depth, 8 or 16 bit, straight alpha. */
export function encodeAlphaPng(data: Uint8Array | Uint16Array, width: number, height: number): Uint8Array {
  const png = encode({ width, height, data, channels: 4, depth: data instanceof Uint16Array ? 16 : 8 });
  return joined([png.subarray(0, HEADER), ...extras(), png.subarray(HEADER)]);
}

/** Chunks between header and picture. */
function extras(metadata?: Metadata, xmp?: Uint8Array): Uint8Array[] {
  return [
    chunk('iCCP', [...text('sRGB'), 0, 0], zlibSync(srgbProfile())),
    ...(metadata ? [chunk('eXIf', [], exifBlock(metadata))] : []),
    ...(xmp ? [chunk('iTXt', [...text('XML:com.adobe.xmp'), 0, 0, 0, 0, 0], xmp)] : []),
  ];
}

function chunk(type: string, head: readonly number[], tail: Uint8Array): Uint8Array {
  const length = head.length + tail.length;
  const out = new Uint8Array(length + 12);
  const view = new DataView(out.buffer);
  view.setUint32(0, length);
  out.set(text(type), 4);
  out.set(head, 8);
  out.set(tail, 8 + head.length);
  view.setUint32(length + 8, crc32(out.subarray(4, length + 8)));
  return out;
}

/** Remainder of every byte by the polynomial of ISO 3309. */
const CRC = Uint32Array.from({ length: 256 }, (_, byte) => {
  let crc = byte;
  for (let k = 0; k < 8; k++) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  return crc;
});

/** CRC-32 of ISO 3309, as PNG asks for. */
function crc32(bytes: Uint8Array): number {
  let crc = ~0;
  for (let i = 0; i < bytes.length; i++) crc = (crc >>> 8) ^ CRC[(crc ^ bytes[i]) & 255];
  return ~crc >>> 0;
}
