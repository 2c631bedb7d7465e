import { checkSize } from '../fileLimits';
import { type RgbaDecoder, type Source } from './source';

/** Reads an AVIF (ISO/IEC 23000-22): the size from its `ispe` box first, the profile from its `colr` box. */
export async function readAvif(file: string, bytes: Uint8Array, decode: RgbaDecoder): Promise<Source> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const head = Math.min(bytes.length, 65536);
  for (const at of found(bytes, 'ispe', head))
    if (at + 16 <= bytes.length)
      checkSize(file, view.getUint32(at + 8), view.getUint32(at + 12), bytes.length);
  const { width, height, data } = await decode(bytes);
  checkSize(file, width, height, bytes.length);
  const colour = found(bytes, 'colr', head).find(
    (at) => String.fromCharCode(...bytes.subarray(at + 4, at + 8)) === 'prof',
  );
  const profile =
    colour === undefined
      ? {}
      : { profile: bytes.subarray(colour + 8, colour - 4 + view.getUint32(colour - 4)) };
  // the decoder applies the container's own rotation
  return { width, height, channels: 4, space: 'rgb', white: 255, data, upright: true, ...profile };
}

function found(bytes: Uint8Array, name: string, end: number): number[] {
  const codes = [...name].map((c) => c.charCodeAt(0));
  const at: number[] = [];
  for (let i = 4; i + 4 < end; i++) if (codes.every((c, k) => bytes[i + k] === c)) at.push(i);
  return at;
}
