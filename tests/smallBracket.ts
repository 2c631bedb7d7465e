import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { encodedGain } from '@/core/raster/encodedGain';
import { nodePlatform } from '@/engine/nodePlatform';
import { paint, waves } from './paint';

/** A file in memory, as a browser's file picker takes it. */
export interface SmallFile {
  readonly name: string;
  readonly mimeType: string;
  readonly buffer: Buffer;
}

/**
 * Three handheld JPEG frames with EXIF, two stops apart, each six pixels beside the one before.
 * @param walker someone dark stands 150 pixels further on in each
 * @param seed of what is seen
 */
export async function smallBracket(
  walker = false,
  [width, height] = [600, 400],
  seed = 81,
): Promise<SmallFile[]> {
  const { encodeJpeg: encode } = nodePlatform();
  const [fine, wide] = [waves(seed, 40), waves(seed + 1, 16)];
  return Promise.all(
    [-2, 0, 2].map(async (stops, i) => {
      const brighten = encodedGain(stops);
      const image = paint(width, height, (x, y) => {
        const there = walker && Math.abs(x - 150 * (i + 1)) < 22 && Math.abs(y - 220) < 50;
        const wall = 0.15 + 0.35 * fine(x + 6 * i, y) + 0.25 * wide(x + 6 * i, y);
        const v = there ? 0.08 + 0.15 * fine(x - 150 * i, y) : wall;
        return [brighten(v), brighten(v * 0.95), brighten(v * 0.9)];
      });
      const jpeg = await encodeJpeg(image, 95, encode);
      const file = writeExif(jpeg, { seconds: 2 ** stops / 60, aperture: 8, iso: 100 });
      return { name: `shot-${i}.jpg`, mimeType: 'image/jpeg', buffer: Buffer.from(file) };
    }),
  );
}
