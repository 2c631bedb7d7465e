import { existsSync, readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';
import { type Plate } from '@/camera/placePlate';
import { plateOf, PLATES } from '@/camera/plates';
import { readLight } from '@/camera/readLight';
import { FIRST_WISH, planStandIn } from '@/camera/standIn';
import { lightWarden } from '@/camera/warden';
import { decodeImage } from '@/core/codecs/decodeImage';
import { nodePlatform } from './nodePlatform';
import { standInCamera } from './standInCamera';

/** Strips of a rendered pass as they lie in the repository. */
function strips(pass: string): Promise<Uint8Array[]> {
  const found: Uint8Array[] = [];
  for (let i = 0; existsSync(`scene/renders/${pass}.${i}.exr`); i++)
    found.push(readFileSync(`scene/renders/${pass}.${i}.exr`));
  return Promise.resolve(found);
}

test('with movement the warden stands on the stage and the water differs; the rest of the picture is the same', async () => {
  const platform = nodePlatform();
  const camera = standInCamera(platform, strips);
  const wish = { ...FIRST_WISH, frames: 1, shake: 0 };
  const look = async (moving: boolean) => {
    const { file, bytes } = await camera(planStandIn({ ...wish, moving })[0]);
    return (await decodeImage(file, bytes, platform)).image;
  };
  const [still, moved] = [await look(false), await look(true)];
  const { width, height } = still;
  const apart = (x0: number, y0: number, x1: number, y1: number): number => {
    let [sum, n] = [0, 0];
    for (let y = Math.round(y0 * height); y < y1 * height; y++)
      for (let x = Math.round(x0 * width); x < x1 * width; x++, n += 3)
        for (let c = 0; c < 3; c++) {
          const i = (y * width + x) * 3 + c;
          sum += Math.abs(still.data[i] - moved.data[i]);
        }
    return sum / n;
  };
  const house = apart(0.55, 0.05, 0.95, 0.3);
  const stage = apart(0.44, 0.42, 0.5, 0.52);
  const pool = apart(0.55, 0.62, 0.75, 0.72);
  expect(house).toBeLessThan(0.5);
  expect(stage).toBeGreaterThan(4 * house + 2);
  expect(pool).toBeGreaterThan(2 * house);
}, 60_000);

test('the warden is lit by the hour: his coat by the sky, his lantern by itself', async () => {
  const plate = plateOf(readLight(await strips('plate.walker-2')), PLATES['walker-2']);
  const lit = (sky: number) => lightWarden(plate, { sky });
  const [dusk, day] = [lit(0.19), lit(0.57)];
  const mean = (of: Plate, x0: number, y0: number, x1: number, y1: number): number => {
    let [sum, n] = [0, 0];
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++, n++) sum += of.light.planes[1][y * of.light.width + x];
    return sum / n;
  };
  const [back, lantern] = [[150, 200, 175, 300] as const, [262, 365, 285, 400] as const];
  expect(mean(day, ...back) / mean(dusk, ...back)).toBeGreaterThan(2.5);
  expect(mean(day, ...lantern) / mean(dusk, ...lantern)).toBeCloseTo(1, 2);
  expect(mean(dusk, ...back)).toBeCloseTo(mean(plate, ...back), 6);
});
