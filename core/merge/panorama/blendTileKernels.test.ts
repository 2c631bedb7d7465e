import { describe, expect, test } from '@jest/globals';
import { rotation } from '@/camera/pose';
import { largestDifference, paint, waves } from '@/tests/paint';
import { kernels } from '../../kernels/kernels';
import { type EncodedImage, emptyImage } from '../../raster/encodedImage';
import { halveImage } from '../../raster/halveImage';
import { transposed } from '../../raster/matrix3';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { blendTile, blendTilePlain } from './blendTile';
import { placeCanvas } from './canvas';
import { panoramaTiles, type PanoramaPlan, planPanorama } from './planPanorama';

const [W, H, FOCAL] = [220, 190, 230];
const YAWS = [-32, -3, 27];

/** Frames of one sky that need not agree in detail: only their blend is looked at. */
function frameOf(seed: number, gain: number, white: 255 | 65535): EncodedImage {
  const [red, green] = [waves(seed, 20), waves(seed + 1, 20)];
  return paint(
    W,
    H,
    (x, y) => {
      const lost = 1 - 0.3 * (((x - W / 2) ** 2 + (y - H / 2) ** 2) / ((W / 2) ** 2 + (H / 2) ** 2));
      return [gain * lost * red(x, y), gain * lost * green(x, y), 0.4 * gain * lost];
    },
    white,
  );
}

const images = [frameOf(91, 0.8, 255), frameOf(93, 1, 65535), frameOf(95, 0.7, 255)];
const fit: PanoramaFit = {
  lens: { focalPx: FOCAL, k1: 0, width: W, height: H },
  rotations: YAWS.map((yaw, i) => transposed(rotation({ yaw, pitch: 2 * i - 2, roll: 1 - i }))),
  pairs: [],
};

function drawn(blend: typeof blendTile, plan: PanoramaPlan, size: number): EncodedImage {
  const out = emptyImage(plan.canvas.width, plan.canvas.height, 65535);
  for (const tile of panoramaTiles(plan.canvas, size)) blend(images, fit, plan, tile, out);
  return out;
}

describe('blending by the kernels agrees with the plain form', () => {
  const levels = images.map((image) => [image, halveImage(image)]);
  test.each([
    ['cylindrical', 256],
    ['cylindrical', 97],
    ['rectilinear', 1024],
  ] as const)('%s, tiles of %i pixels', (projection, size) => {
    expect(kernels()).toBeDefined();
    const plan = planPanorama(levels, fit, placeCanvas(fit, projection));
    const [a, b] = [drawn(blendTile, plan, size), drawn(blendTilePlain, plan, size)];
    // codes of 65535; an 8-bit frame is weighed in whole numbers by the kernel
    const off = Array.from(a.data, (v, i) => Math.abs(v - b.data[i]));
    expect(off.filter((d) => d > 60).length / off.length).toBeLessThan(1e-3);
    expect(largestDifference(a.data, b.data)).toBeLessThan(600);
    // what no frame reaches stays empty in both, and most of the canvas is covered
    const empty = (image: EncodedImage): number =>
      image.data.filter((v, i) => i % 3 === 2 && v === 0).length / (image.width * image.height);
    expect(empty(a)).toBeCloseTo(empty(b), 6);
    expect(empty(a)).toBeGreaterThan(0.01);
    expect(empty(a)).toBeLessThan(0.5);
  });

  test('a tile that no frame reaches is left alone', () => {
    const plan = planPanorama(levels, fit, placeCanvas(fit, 'cylindrical'));
    const alone = { ...fit, rotations: [null, null, null] };
    const out = emptyImage(plan.canvas.width, plan.canvas.height, 65535);
    out.data.fill(7);
    blendTile(images, alone, plan, panoramaTiles(plan.canvas)[0], out);
    expect(largestDifference(out.data, new Uint16Array(out.data.length).fill(7))).toBe(0);
  });
});
