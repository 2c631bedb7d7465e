import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { type Raster, sharedFloats } from '@/core/raster/raster';

const FOLDER = 'dist/tests/light';
/** what reads them: light that another version read is not taken */
const READERS = ['camera/readLight.ts', 'camera/mixLights.ts'];

/**
 * What is decoded of files is kept for the tests that ask again, in other processes too: reading the stand-in mill takes seconds, and thirty
 * test files do. @param key all that the light is made of
 */
export function heldLight(key: readonly (Uint8Array | string)[], decode: () => Raster): Raster {
  const hash = createHash('sha256');
  for (const part of [...READERS.map((file) => readFileSync(file)), ...key]) hash.update(part);
  const file = `${FOLDER}/${hash.digest('hex').slice(0, 32)}.f32`;
  if (existsSync(file)) return unpacked(readFileSync(file));
  const light = decode();
  mkdirSync(FOLDER, { recursive: true });
  // another process may be reading or writing it
  const own = `${file}.${process.pid}`;
  writeFileSync(own, packed(light));
  renameSync(own, file);
  return light;
}

/** Width, height and number of planes, then the planes. */
function packed({ width, height, planes }: Raster): Uint8Array {
  const values = new Float32Array(3 + planes.length * width * height);
  values.set([width, height, planes.length]);
  planes.forEach((plane, c) => values.set(plane, 3 + c * width * height));
  return new Uint8Array(values.buffer);
}

function unpacked(bytes: Uint8Array): Raster {
  const values = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 4);
  const [width, height, count] = values;
  const planes = Array.from({ length: count }, (_, c) => {
    const plane = sharedFloats(width * height);
    plane.set(values.subarray(3 + c * width * height, 3 + (c + 1) * width * height));
    return plane;
  });
  return { width, height, planes };
}
