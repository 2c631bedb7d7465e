import { describe, expect, test } from '@jest/globals';
import { IDENTITY, transposed } from '../../raster/matrix3';
import { randomSource } from '../../raster/random';
import { pixelOf, rayOf, turnAbout, turned } from '../../register/rotation/cameraModel';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { chooseProjection, placeCanvas } from './canvas';
import { coveredBox } from './coveredBox';
import { PROJECTIONS } from './projection';

const lens = { focalPx: 420, k1: -0.03, width: 400, height: 300 };

/** Frames by turn, tilt and roll, radians. */
const fitOf = (...poses: readonly (readonly [number, number, number])[]): PanoramaFit => ({
  lens,
  rotations: poses.map((pose) => turnAbout(...pose)),
  pairs: [],
});

const SETS: Readonly<Record<string, PanoramaFit>> = {
  'a row': fitOf([0, -0.6, 0], [0.02, 0, 0.01], [0, 0.6, 0]),
  'two rows, rolled': fitOf([0.3, -0.5, 0.2], [0.3, 0.4, 0], [-0.35, -0.4, 0], [-0.3, 0.5, -0.1]),
  'a full turn': fitOf(...Array.from({ length: 9 }, (_, i) => [0, (i * 2 * Math.PI) / 9, 0] as const)),
  'straight up': fitOf([0, 0, 0], [0.8, 0, 0], [1.5, 0, 0]),
};

describe.each(Object.entries(SETS))('the paper of %s', (_, fit) => {
  const whole = chooseProjection(fit).choices.flatMap(({ kind, whole }) => (whole ? [kind] : []));
  test.each(whole)('holds all that the frames show, %s', (kind) => {
    const canvas = placeCanvas(fit, kind);
    const random = randomSource(7);
    for (const R of fit.rotations)
      for (let k = 0; R && k < 400; k++) {
        const ray = rayOf(lens, random() * (lens.width - 1), random() * (lens.height - 1));
        const p = PROJECTIONS[kind].toPlane(...turned(transposed(R), ray));
        if (!p) continue;
        // beside a pole a cylinder goes on without end
        if (Math.abs(p[1]) > 8) continue;
        const [x, y] = [p[0] * canvas.scale - canvas.left, p[1] * canvas.scale - canvas.top];
        // what bulges between two samples, and the row that a seam of longitudes lies between
        const slack = 0.012 * Math.max(canvas.width, canvas.height) + 1;
        expect(Math.min(x, canvas.width - 1 - x, y, canvas.height - 1 - y)).toBeGreaterThan(-slack);
      }
  });
});

test('the outline of a frame that lies in one piece tells its extent to a pixel', () => {
  const canvas = placeCanvas(SETS['two rows, rolled'], 'cylindrical');
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const R of SETS['two rows, rolled'].rotations)
    for (let y = 0; R && y < lens.height; y++)
      for (let x = 0; x < lens.width; x++) {
        const p = PROJECTIONS.cylindrical.toPlane(...turned(transposed(R), rayOf(lens, x, y)));
        if (!p) continue;
        [left, right] = [Math.min(left, p[0]), Math.max(right, p[0])];
        [top, bottom] = [Math.min(top, p[1]), Math.max(bottom, p[1])];
      }
  expect(canvas.scale * (right - left)).toBeLessThan(canvas.width + 1);
  expect(canvas.scale * (right - left)).toBeGreaterThan(canvas.width - 3);
  expect(canvas.scale * (bottom - top)).toBeLessThan(canvas.height + 1);
  expect(canvas.scale * (bottom - top)).toBeGreaterThan(canvas.height - 3);
});

test('the box that frames cover is seen by some frame in every pixel of its rim', () => {
  const fit = SETS['two rows, rolled'];
  const canvas = placeCanvas(fit, 'cylindrical');
  const box = coveredBox(fit, canvas, IDENTITY, 'free');
  if (!box) throw new Error('nothing is covered');
  expect(box.width * box.height).toBeGreaterThan(0.3 * canvas.width * canvas.height);
  const sees = (x: number, y: number): boolean => {
    const ray = PROJECTIONS.cylindrical.toRay(
      (x + canvas.left) / canvas.scale,
      (y + canvas.top) / canvas.scale,
    );
    return fit.rotations.some((R) => {
      const p = R && ray && pixelOf(lens, ...turned(R, [ray[0], ray[1], ray[2]]));
      return p && Math.min(p[0], p[1], lens.width - 1 - p[0], lens.height - 1 - p[1]) > -0.01;
    });
  };
  for (let x = box.x; x < box.x + box.width; x++)
    for (const y of [box.y, box.y + box.height - 1]) expect(sees(x, y)).toBe(true);
  for (let y = box.y; y < box.y + box.height; y++)
    for (const x of [box.x, box.x + box.width - 1]) expect(sees(x, y)).toBe(true);
});
