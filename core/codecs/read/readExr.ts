import { FloatType } from 'three';
import { EXRLoader } from 'three/addons/loaders/EXRLoader.js';
import { checkSize } from '../fileLimits';
import { checkChunks, exrHeader } from './exrHeader';
import { type Source } from './source';

/** Reads OpenEXR: the header is walked first, then R G B (or Y) as scene-linear floats. */
export function readExr(file: string, bytes: Uint8Array): Source {
  const window = exrHeader(bytes);
  checkSize(file, window.width, window.height, bytes.length);
  checkChunks(bytes, window.table);
  const loader = new EXRLoader();
  loader.setDataType(FloatType);
  const { width = 0, height = 0, data: found } = loader.parse(bytes.slice().buffer);
  const data = found as Float32Array;
  if (width !== window.width || height !== window.height) throw new Error('sizes differ');
  const channels = (data.length / (width * height)) as 1 | 4;
  return {
    width,
    height,
    channels,
    space: channels === 1 ? 'grey' : 'rgb',
    white: 1,
    data: fromBelow(data, width, height, channels),
  };
}

/** The library gives rows from the bottom up; values that are no number are dark. */
function fromBelow(data: Float32Array, width: number, height: number, channels: number): Float32Array {
  const out = new Float32Array(data.length);
  const row = width * channels;
  for (let y = 0; y < height; y++)
    out.set(data.subarray((height - 1 - y) * row, (height - y) * row), y * row);
  for (let i = 0; i < out.length; i++) if (!Number.isFinite(out[i])) out[i] = out[i] > 0 ? 65504 : 0;
  return out;
}
