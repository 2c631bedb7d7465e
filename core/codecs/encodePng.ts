import { encode } from 'fast-png';
import { zlibSync } from 'fflate';
import { type EncodedImage } from '../raster/encodedImage';
import { srgbProfile } from './srgbProfile';

/** Writes a PNG of the image's own depth with the sRGB profile (W3C PNG, third edition: iCCP directly after IHDR). */
export function encodePng(image: EncodedImage): Uint8Array {
  const { width, height, data, white } = image;
  // the encoder walks ordinary memory only
  const plain = white === 255 ? new Uint8Array(data) : new Uint16Array(data);
  const png = encode({ width, height, data: plain, channels: 3, depth: white === 255 ? 8 : 16 });
  const afterHeader = 8 + 25;
  const chunk = profileChunk();
  const out = new Uint8Array(png.length + chunk.length);
  out.set(png.subarray(0, afterHeader));
  out.set(chunk, afterHeader);
  out.set(png.subarray(afterHeader), afterHeader + chunk.length);
  return out;
}

function profileChunk(): Uint8Array {
  const profile = zlibSync(srgbProfile());
  const name = [...'sRGB'].map((c) => c.charCodeAt(0));
  const body = Uint8Array.from([...[...'iCCP'].map((c) => c.charCodeAt(0)), ...name, 0, 0, ...profile]);
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
