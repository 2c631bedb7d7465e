import { writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { encodeExr } from '@/core/codecs/encodeExr';
import { encodeTiff } from '@/core/codecs/encodeTiff';
import { Problem } from '@/core/proof/problem';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type WorkerPool } from '@/engine/workerPool';

const JPEG_QUALITY = 95;

/** Writes the picture in the format that the file's ending asks for. */
export async function writeOutput(pool: WorkerPool, image: EncodedImage, file: string): Promise<void> {
  const bytes = await encode(pool, image, extname(file).toLowerCase());
  await writeBytes(file, bytes);
}

/** Writes a file; the sentence names it when that fails. */
export async function writeBytes(file: string, bytes: Uint8Array | string): Promise<void> {
  try {
    await writeFile(file, bytes);
  } catch {
    throw new Problem(`“${file}” cannot be written. Check that its folder exists and has room.`);
  }
}

async function encode(pool: WorkerPool, image: EncodedImage, ending: string): Promise<Uint8Array> {
  switch (ending) {
    case '.png':
      return pool.run((tasks) => tasks.png(image));
    case '.jpg':
    case '.jpeg':
      return pool.run((tasks) => tasks.jpeg(image, JPEG_QUALITY));
    case '.exr':
      return encodeExr(image);
    default:
      return encodeTiff(image);
  }
}
