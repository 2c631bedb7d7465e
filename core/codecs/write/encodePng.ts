import { encode } from 'fast-png';
import { zlibSync } from 'fflate';
import { type EncodedImage } from '../../raster/encodedImage';
import { joined } from '../read/pngChunks';
import { exifBlock, type Metadata } from './exifBlock';
import { srgbProfile } from './srgbProfile';
import { xmpPacket } from './xmpPacket';

const HEADER = 8 + 25;
const text = (s: string): number[] => [...s].map((c) => c.charCodeAt(0));

/**
 * Writes a PNG of the image's own depth, 16 bit for floats, with the sRGB profile, EXIF and XMP (W3C PNG, third edition: iCCP directly
 * after IHDR, eXIf and iTXt before the picture).
 */
export function encodePng(image: EncodedImage, metadata?: Metadata): Uint8Array {
  const { width, height, data, white } = image;
  // the encoder walks ordinary memory only
  const plain =
    white === 255
      ? new Uint8Array(data)
      : white === 65535
        ? new Uint16Array(data)
        : Uint16Array.from(data, (v) => Math.min(1, Math.max(0, v)) * 65535 + 0.5);
  const png = encode({ width, height, data: plain, channels: 3, depth: white === 255 ? 8 : 16 });
  return withChunks(png, metadata);
}

/** Writes R G B A, 8 bit, straight alpha. */
export function encodeAlphaPng(data: Uint8Array, width: number, height: number): Uint8Array {
  return withChunks(encode({ width, height, data, channels: 4, depth: 8 }));
}

function withChunks(png: Uint8Array, metadata?: Metadata): Uint8Array {
  const xmp = metadata && xmpPacket(metadata);
  return joined([
    png.subarray(0, HEADER),
    chunk('iCCP', [...text('sRGB'), 0, 0], zlibSync(srgbProfile())),
    ...(metadata ? [chunk('eXIf', [], exifBlock(metadata))] : []),
    ...(xmp ? [chunk('iTXt', [...text('XML:com.adobe.xmp'), 0, 0, 0, 0, 0], xmp)] : []),
    png.subarray(HEADER),
  ]);
}

function chunk(type: string, head: readonly number[], tail: Uint8Array): Uint8Array {
  const body = Uint8Array.from([...text(type), ...head, ...tail]);
  const out = new Uint8Array(body.length + 8);
  const view = new DataView(out.buffer);
  view.setUint32(0, body.length - 4);
  out.set(body, 4);
  view.setUint32(body.length + 4, crc32(body));
  return out;
}

/** CRC-32 of ISO 3309, as PNG asks for. */
function crc32(bytes: Uint8Array): number {
  let crc = ~0;
  for (const byte of bytes) {
    crc ^= byte;
    for (let k = 0; k < 8; k++) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  }
  return ~crc >>> 0;
}
