import { access, constants, writeFile } from 'node:fs/promises';
import { dirname, extname } from 'node:path';
import { type Metadata } from '@/core/codecs/write/exifBlock';
import { type PictureKind } from '@/core/codecs/write/encodePicture';
import { Problem } from '@/core/proof/problem';
import { emptyImage, type EncodedImage, type White } from '@/core/raster/encodedImage';
import { type WorkerPool } from '@/engine/workerPool';

const JPEG_QUALITY = 95;

const KINDS: Readonly<Record<string, PictureKind>> = {
  '.png': 'png',
  '.jpg': 'jpeg',
  '.jpeg': 'jpeg',
  '.exr': 'exr',
  '.tif': 'tiff',
  '.tiff': 'tiff',
};

const WHITES: Readonly<Record<string, White>> = { '.jpg': 255, '.jpeg': 255, '.exr': 1 };

/** The codes that a file of such an ending holds. */
export const whiteOf = (file: string): White => WHITES[extname(file).toLowerCase()] ?? 65535;

/** Codes from 0 to 1, as floats: a TIFF of them holds linear light. */
function inFloats({ width, height, data, white }: EncodedImage): EncodedImage {
  const image = emptyImage(width, height, 1);
  for (let i = 0; i < data.length; i++) image.data[i] = data[i] / white;
  return image;
}

/** Writes the picture in the format that the file's ending asks for. @param float a TIFF holds floats of linear light */
export async function writeOutput(
  pool: WorkerPool,
  image: EncodedImage,
  file: string,
  metadata: Metadata,
  float = false,
): Promise<void> {
  const kind = KINDS[extname(file).toLowerCase()] ?? 'tiff';
  const bytes = await pool.run((tasks) =>
    tasks.encode(float ? inFloats(image) : image, kind, metadata, JPEG_QUALITY),
  );
  await writeBytes(file, bytes);
}

const unwritable = (file: string): Problem =>
  new Problem(`“${file}” cannot be written. Check that its folder exists and has room.`);

/** Writes a file; the sentence names it when that fails. */
export async function writeBytes(file: string, bytes: Uint8Array | string): Promise<void> {
  try {
    await writeFile(file, bytes);
  } catch {
    throw unwritable(file);
  }
}

/**
 * Asks before the work whether files can be written where they are to go: a set of an hour is not merged for nothing.
 * @throws Problem naming the first that cannot
 */
export async function checkWritable(files: readonly (string | undefined)[]): Promise<void> {
  for (const file of files)
    if (file !== undefined)
      await access(dirname(file), constants.W_OK).catch(() => {
        throw unwritable(file);
      });
}
