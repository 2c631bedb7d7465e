import { CHART_COLUMNS, CHART_LIGHT, CHART_ROWS, type PatchLight } from '@/core/match/chart/chartPatches';
import { type ChartCorners } from '@/core/match/chart/chartColours';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { quadMatrix } from '@/core/raster/quadMatrix';
import { randomSource } from '@/core/raster/random';
import { transform } from '@/core/raster/matrix3';
import { linearToSrgb } from '@/core/raster/srgb';

/** Light and camera: linear light of a reflectance → what is recorded, row by row. */
export type Recording = readonly number[];

/** Three lights, gains of R, G, B in a camera whose channels see into each other: a lamp, noon, open shade. */
export const THREE_LIGHTS: Readonly<Record<'lamp' | 'noon' | 'shade', Recording>> = {
  lamp: [1.5, 0.18, 0.02, 0.16, 0.78, 0.05, 0.02, 0.14, 0.3],
  noon: [0.86, 0.14, 0.01, 0.1, 0.82, 0.08, 0.01, 0.16, 0.8],
  shade: [0.62, 0.12, 0.02, 0.08, 0.84, 0.12, 0.02, 0.2, 1.15],
};

const SUB = 2;
/** part of a patch’s pitch that lies between patches */
const GAP = 0.14;

/**
 * A picture with the chart in it, seen through a homography, on a board before a cluttered ground.
 * @param corners of the field of patches
 * @param gain of exposure
 */
export function chartPicture({
  corners,
  recording,
  width = 480,
  height = 360,
  gain = 0.8,
  noise = 0.004,
  seed = 1,
}: {
  readonly corners: ChartCorners;
  readonly recording: Recording;
  readonly width?: number;
  readonly height?: number;
  readonly gain?: number;
  readonly noise?: number;
  readonly seed?: number;
}): EncodedImage {
  const random = randomSource(seed);
  const field: ChartCorners = [
    [0, 0],
    [CHART_COLUMNS, 0],
    [CHART_COLUMNS, CHART_ROWS],
    [0, CHART_ROWS],
  ];
  const back = quadMatrix(corners, field);
  if (!back) throw new Error('no field');
  const things = Array.from({ length: 60 }, () => ({
    ...{ x: random() * width, y: random() * height, r: 5 + 30 * random() },
    light: [0, 1, 2].map(() => 0.6 * random() ** 2) as unknown as PatchLight,
    square: random() < 0.5,
  }));
  const clutter = (x: number, y: number): PatchLight => {
    const thing = things.find((t) =>
      t.square ? Math.max(Math.abs(x - t.x), Math.abs(y - t.y)) < t.r : Math.hypot(x - t.x, y - t.y) < t.r,
    );
    return thing?.light ?? [0.1, 0.09, 0.08];
  };
  const reflected = (x: number, y: number, behind: () => PatchLight): PatchLight => {
    const [u, v] = transform(back, x, y);
    if (u < -0.4 || v < -0.4 || u > CHART_COLUMNS + 0.4 || v > CHART_ROWS + 0.4) return behind();
    const [column, row] = [Math.floor(u), Math.floor(v)];
    const inside = (part: number): boolean => part > GAP / 2 && part < 1 - GAP / 2;
    const onPatch =
      column >= 0 &&
      row >= 0 &&
      column < CHART_COLUMNS &&
      row < CHART_ROWS &&
      inside(u - column) &&
      inside(v - row);
    return onPatch ? CHART_LIGHT[row * CHART_COLUMNS + column] : [0.018, 0.018, 0.018];
  };
  const data = new Uint8Array(3 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const sum = [0, 0, 0];
      let known: PatchLight | undefined;
      const behind = (): PatchLight => (known ??= clutter(x, y));
      for (let k = 0; k < SUB * SUB; k++) {
        const light = reflected(
          x + ((k % SUB) + 0.5) / SUB - 0.5,
          y + (Math.floor(k / SUB) + 0.5) / SUB - 0.5,
          behind,
        );
        for (let c = 0; c < 3; c++) sum[c] += light[c] / (SUB * SUB);
      }
      for (let c = 0; c < 3; c++) {
        const seen = [0, 1, 2].reduce((s, k) => s + recording[3 * c + k] * sum[k], 0);
        const code =
          linearToSrgb(Math.max(0, gain * seen)) + noise * (random() + random() + random() - 1.5) * 2;
        data[3 * (y * width + x) + c] = Math.round(255 * Math.min(1, Math.max(0, code)));
      }
    }
  return { width, height, white: 255, data };
}
