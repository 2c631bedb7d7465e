import { FloatType } from 'three';
import { HDRLoader } from 'three/addons/loaders/HDRLoader.js';
import { checkSize } from '../fileLimits';
import { type Source } from './source';

/** Reads Radiance RGBE (.hdr): the resolution line first, then scene-linear floats. */
export function readHdr(file: string, bytes: Uint8Array): Source {
  const head = String.fromCharCode(...bytes.subarray(0, 4096));
  const size = /\n-Y (\d{1,9}) \+X (\d{1,9})\n/.exec(head);
  if (!size) throw new Error('no resolution line');
  checkSize(file, Number(size[2]), Number(size[1]), bytes.length);
  if (!reachesItsEnd(bytes, size.index + size[0].length, Number(size[2]), Number(size[1])))
    throw new Error('its end is missing');
  const loader = new HDRLoader();
  loader.setDataType(FloatType);
  const {
    width = 0,
    height = 0,
    data: found,
  } = loader.parse(bytes.slice().buffer) as {
    width?: number;
    height?: number;
    data: Float32Array;
  };
  return { width, height, channels: 4, space: 'rgb', white: 1, data: found };
}

/** Walks the run lengths of every row (Ward, "Real Pixels", 1991): the library fills what a cut file lacks with darkness. */
function reachesItsEnd(bytes: Uint8Array, from: number, width: number, height: number): boolean {
  let p = from;
  for (let y = 0; y < height; y++) {
    const packed = bytes[p] === 2 && bytes[p + 1] === 2 && bytes[p + 2] * 256 + bytes[p + 3] === width;
    if (!packed) return bytes.length >= p + (height - y) * width * 4;
    p += 4;
    for (let left = width * 4; left > 0;) {
      if (p >= bytes.length) return false;
      const count = bytes[p];
      left -= count > 128 ? count - 128 : count;
      p += count > 128 ? 2 : count + 1;
      if (count === 0) return false;
    }
  }
  return p <= bytes.length;
}
