import { PLAIN_LENS } from '@/camera/lens';
import { factsOf, shootView } from '@/camera/shootView';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { nodePlatform } from '@/engine/nodePlatform';
import { GRADES, graded } from './knownGrade';
import { millAtDusk } from './knownScene';

const YAWS = [-9, 0, 9];

/** Three frames of a turned camera over the stand-in mill, as files. @param odd the middle one was developed with a curve of its own */
export async function turnedFrames(
  odd: boolean,
): Promise<{ name: string; mimeType: string; buffer: Buffer<ArrayBuffer> }[]> {
  const scene = { light: millAtDusk(), field: { kind: 'flat', across: 63 } } as const;
  const { encodeJpeg: encode } = nodePlatform();
  return Promise.all(
    YAWS.map(async (yaw, k) => {
      const lens = { ...PLAIN_LENS, focalLength: 60 };
      const stand = { yaw, pitch: 0.1 * k, roll: 0 };
      const shot = { width: 440, height: 292, lens, stand, seconds: 0.5, iso: 100, seed: k + 7 };
      const { image } = shootView(scene, shot);
      const shown = odd && k === 1 ? graded(image, GRADES['S-curve']) : image;
      const taken = `2026-10-03T18:00:0${k}.000`;
      const bytes = writeExif(await encodeJpeg(shown, 95, encode), factsOf(shot, taken));
      return { name: `turned-${k}.jpg`, mimeType: 'image/jpeg', buffer: Buffer.from(bytes) };
    }),
  );
}
