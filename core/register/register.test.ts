import { describe, expect, test } from '@jest/globals';
import { encodedGain } from '@/core/raster/encodedGain';
import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { invert, type Matrix3, multiply, transform, translation } from '@/core/raster/matrix3';
import { normalSource, randomSource } from '@/core/raster/random';
import { flat, paint, waves } from '@/tests/paint';
import { fitFindings, worstPlace } from './fitFindings';
import { crossSpectrum, fourier, powerOfTwo, type Spectrum } from './fourier';
import { logFloor, logLuminance } from './logLuminance';
import { halveLuminance, luminance, luminancePyramid, usableChannel } from './luminance';
import { directionMatrix, pointJacobian } from './motionModel';
import { registerPair } from './registerPair';
import { referenceRegistration, type Registration } from './registration';
import { correlationShifts, phaseShifts } from './shiftCandidates';
import { summariseResiduals } from './tileResidual';

const [W, H] = [540, 360];

interface ShotOptions {
  readonly stops?: number;
  /** reference pixel → frame pixel */
  readonly map?: Matrix3;
  readonly noise?: number;
  readonly seed?: number;
  /** a square of something else, moved from frame to frame */
  readonly mover?: { readonly x: number; readonly y: number; readonly size: number };
}

const [fine, coarse, tint] = [waves(31, 48), waves(32, 24), waves(33, 24)];
const other = waves(77, 40);

function shot({
  stops = 0,
  map = translation(0, 0),
  noise = 0.004,
  seed = 1,
  mover,
}: ShotOptions): EncodedImage {
  const back = invert(map);
  const brighten = encodedGain(stops);
  const normal = normalSource(randomSource(seed));
  return paint(W, H, (x, y) => {
    const [u, v] = transform(back, x, y);
    const moved =
      mover && x >= mover.x && y >= mover.y && x < mover.x + mover.size && y < mover.y + mover.size;
    const base = moved ? other(x - mover.x, y - mover.y) : 0.12 + 0.45 * fine(u, v) + 0.25 * coarse(u, v);
    const c = tint(u, v) - 0.5;
    return [base + 0.1 * c, base, base - 0.1 * c].map((e) => brighten(e) + noise * normal()) as [
      number,
      number,
      number,
    ];
  });
}

/** Largest distance between two maps over the picture. */
function apart(a: Matrix3, b: Matrix3): number {
  let most = 0;
  for (let y = 0; y <= H; y += 60)
    for (let x = 0; x <= W; x += 60) {
      const p = transform(a, x, y);
      const q = transform(b, x, y);
      most = Math.max(most, Math.hypot(p[0] - q[0], p[1] - q[1]));
    }
  return most;
}

const turned = (degrees: number, scale: number, dx: number, dy: number): Matrix3 => {
  const a = (degrees * Math.PI) / 180;
  const [c, s] = [scale * Math.cos(a), scale * Math.sin(a)];
  return multiply(
    translation(W / 2 + dx, H / 2 + dy),
    multiply([c, -s, 0, s, c, 0, 0, 0, 1], translation(-W / 2, -H / 2)),
  );
};

const reference = shot({});

describe('registerPair', () => {
  test.each([
    { name: 'shift', map: translation(7.3, -4.6), model: 'shift', stops: 0 },
    { name: 'shift, two stops darker', map: translation(-11.4, 5.2), model: 'shift', stops: -2 },
    {
      name: 'turn and scale, two stops lighter',
      map: turned(0.8, 1.004, 5, -7),
      model: 'similarity',
      stops: 2,
    },
    {
      name: 'perspective',
      map: [1.004, 0.006, 3, -0.004, 0.998, -5, 2e-5, -1.6e-5, 1] as Matrix3,
      model: 'perspective',
      stops: 0,
    },
  ])('finds a $name to 0.1 px and names the model', ({ map, model, stops }) => {
    const frame = shot({ map, stops, seed: 9 });
    const fit = registerPair(reference, frame, { stops, motion: 'auto' });
    expect(fit).toMatchObject({ fitted: true, model });
    expect(apart(fit.matrix, map)).toBeLessThan(0.1);
    // its own error estimate holds
    expect(fit.bound).toBeLessThan(0.1);
    expect(fit.residual.typical).toBeLessThan(0.2);
  });

  test('a moving object does not pull the fit', () => {
    const map = translation(4.5, 3.25);
    const still = shot({ mover: { x: 120, y: 90, size: 110 } });
    const frame = shot({ map, seed: 5, mover: { x: 190, y: 130, size: 110 } });
    const fit = registerPair(still, frame, { stops: 0, motion: 'auto' });
    expect(fit.fitted).toBe(true);
    expect(apart(fit.matrix, map)).toBeLessThan(0.1);
  });

  test('a model that was asked for is kept', () => {
    const fit = registerPair(reference, shot({ map: turned(0.6, 1, 2, 3), seed: 3 }), {
      stops: 0,
      motion: 'shift',
    });
    const [a, b, , c, d] = fit.matrix;
    expect([a, b, c, d]).toEqual([1, 0, 0, 1]);
    // and the findings see what it leaves
    expect(fit.residual.worst).toBeGreaterThan(0.5);
  });

  test.each([
    ['another view', paint(W, H, (x, y) => [other(x, y), other(y, x), other(x + 40, y)])],
    ['an even wall', flat(W, H, 0.5)],
    ['a frame that is all white', flat(W, H, 1)],
  ])('%s is left out with a reason, not bent', (_, frame) => {
    const fit = registerPair(reference, frame, { stops: 0, motion: 'auto' });
    expect(fit.fitted).toBe(false);
    expect(fit.why).not.toBe('');
    expect(fit.matrix).toEqual(referenceRegistration().matrix);
  });

  test('a regular pattern that fits in several places is refused', () => {
    const stripes = (dx: number, seed: number) => {
      const normal = normalSource(randomSource(seed));
      return paint(W, H, (x) => {
        const v = 0.5 + 0.3 * Math.sin(((x + dx) * 2 * Math.PI) / 24) + 0.01 * normal();
        return [v, v, v];
      });
    };
    expect(registerPair(stripes(0, 1), stripes(8, 2), { stops: 0, motion: 'auto' }).fitted).toBe(false);
  });

  test('the same input gives the same numbers', () => {
    const frame = shot({ map: translation(3, 1), seed: 4 });
    const options = { stops: 0, motion: 'auto' } as const;
    expect(registerPair(reference, frame, options)).toEqual(registerPair(reference, frame, options));
  });

  test('a stop at a coarser level still lands within a quarter pixel', () => {
    const map = translation(6.4, -2.8);
    const fit = registerPair(reference, shot({ map, seed: 2 }), { stops: 0, motion: 'auto', stopLevel: 1 });
    expect(apart(fit.matrix, map)).toBeLessThan(0.25);
  });
});

describe('luminance', () => {
  test('two exposures of one light agree in the common scale where neither clips', () => {
    const a = luminance(flat(16, 16, 0.4), 0, 'all').light[0];
    const brighten = encodedGain(1);
    const b = luminance(flat(16, 16, brighten(0.4)), 1, 'all').light[0];
    expect(Math.abs(Math.log2(b / a))).toBeLessThan(0.03);
  });

  test('clipped samples are not valid, and a coarse pixel keeps the valid part only', () => {
    const image = paint(8, 8, (x) => (x < 3 ? [1, 1, 1] : [0.5, 0.5, 0.5]));
    const level = halveLuminance(luminance(image, 0, 'all'));
    // x = 1 covers columns 1…4 with weights 1 3 3 1: columns 3 and 4 alone count
    expect(level.light[1]).toBeCloseTo(luminance(flat(8, 8, 0.5), 0, 'all').light[0], 3);
    expect(level.valid[0]).toBe(0);
  });

  test('one channel is used alone when the others clip', () => {
    const burnt = paint(64, 64, (x, y) => [1, 0.3 + 0.3 * fine(x, y), 1]);
    expect(usableChannel(burnt, burnt, 0)).toBe(1);
    expect(usableChannel(reference, reference, 0)).toBe('all');
  });

  test('the pyramid ends near 190 pixels', () => {
    const levels = luminancePyramid(emptyImage(1500, 1000, 255), 0, 'all');
    expect(levels[levels.length - 1].width).toBe(187);
  });

  test('the logarithm is exact to a thousandth of a stop', () => {
    const image = paint(256, 1, (x) => [x / 255, x / 255, x / 255]);
    const light = halveLuminance(
      luminance(
        paint(512, 2, (x) => [x / 511, x / 511, x / 511]),
        0,
        'all',
      ),
    );
    const floor = logFloor(0);
    const { value } = logLuminance(light, floor);
    for (let i = 0; i < 256; i += 7) expect(value[i]).toBeCloseTo(Math.log2(light.light[i] + floor), 3);
    expect(image.width).toBe(256);
  });
});

describe('shifts by Fourier transforms', () => {
  const rep = (image: EncodedImage) => logLuminance(luminancePyramid(image, 0, 'all')[1], 0.006);
  const [a, b] = [rep(reference), rep(shot({ map: translation(24, -16), seed: 8 }))];

  test('phase correlation (Kuglin & Hines 1975) finds the shift', () => {
    const [best] = phaseShifts(a, b, 3);
    expect(best.dx).toBeCloseTo(12, 0);
    expect(best.dy).toBeCloseTo(-8, 0);
  });

  test('masked normalised correlation (Padfield 2012) finds it too, with part of the picture missing', () => {
    const valid = a.valid.map((v, i) => (i % a.width < 90 ? 0 : v));
    const shifts = correlationShifts({ ...a, valid }, b, 3);
    expect(Math.min(...shifts.map((s) => Math.hypot(s.dx - 12, s.dy + 8)))).toBeLessThan(1);
  });

  test('a transform and its inverse give back the signal (up to scale), as the correlation theorem needs', () => {
    const spectrum: Spectrum = {
      width: 8,
      height: 4,
      data: Float64Array.from({ length: 64 }, (_, i) => (i % 2 ? 0 : Math.sin(i * i))),
    };
    const before = spectrum.data.slice();
    fourier(spectrum, false);
    fourier(spectrum, true);
    const scale = spectrum.data[2] / before[2];
    for (let i = 0; i < 64; i++) expect(spectrum.data[i]).toBeCloseTo(before[i] * scale, 9);
    expect(powerOfTwo(190)).toBe(256);
    expect(crossSpectrum(spectrum, spectrum).data.every((v, i) => i % 2 === 0 || Math.abs(v) < 1e-9)).toBe(
      true,
    );
  });
});

describe('motion models', () => {
  test('have the degrees of freedom of Hartley & Zisserman, ch. 2', () => {
    const sizes = (['shift', 'similarity', 'perspective'] as const).map(
      (model) => directionMatrix(model).rows,
    );
    expect(sizes).toEqual([2, 4, 8]);
  });

  test('the Jacobian is the derivative of the mapped point', () => {
    const [X, Y, step] = [0.4, -0.3, 1e-6];
    const at = (p: readonly number[]) =>
      transform([1 + p[0], p[1], p[2], p[3], 1 + p[4], p[5], p[6], p[7], 1], X, Y);
    const rows = pointJacobian(X, Y);
    for (let k = 0; k < 8; k++) {
      const [u, v] = at(Array.from({ length: 8 }, (_, i) => (i === k ? step : 0)));
      expect((u - X) / step).toBeCloseTo(rows[0][k], 4);
      expect((v - Y) / step).toBeCloseTo(rows[1][k], 4);
    }
  });
});

describe('residuals and findings', () => {
  const tile = (dx: number, dy: number, x = 10, y = 20) => ({ x, y, dx, dy, error: 0.01 });
  const fit = (change: Partial<Registration>): Registration => ({ ...referenceRegistration(), ...change });

  test('typical is the rms of the better nine tenths, worst the 95th percentile', () => {
    const tiles = [...Array.from({ length: 19 }, () => tile(0.03, 0.04)), tile(3, 4)];
    expect(summariseResiduals(tiles)).toEqual({ typical: expect.closeTo(0.05, 9), worst: 5 });
    expect(summariseResiduals([])).toEqual({ typical: 0, worst: 0 });
  });

  test('the worst place is where the largest displacement was measured', () => {
    const place = worstPlace(fit({ tiles: [tile(0.1, 0), tile(0, 0.9, 300, 200)] }));
    expect(place).toEqual({ x: 180, y: 80, width: 240, height: 240 });
    expect(worstPlace(fit({ tiles: [] }))).toBeUndefined();
  });

  test('a clean set passes everywhere; planted faults are found and named', () => {
    const clean = { name: 'a.jpg', isReference: true, registration: fit({}) };
    const good = {
      name: 'b.jpg',
      isReference: false,
      registration: fit({ residual: { typical: 0.05, worst: 0.2 } }),
    };
    expect(fitFindings([clean, good], 0.98).every((f) => f.verdict === 'pass')).toBe(true);
    const bad = {
      name: 'c.jpg',
      isReference: false,
      registration: fit({ residual: { typical: 0.6, worst: 4 }, scale: 1.02, turnDegrees: -3 }),
    };
    const lost = {
      name: 'd.jpg',
      isReference: false,
      registration: fit({ fitted: false, why: 'it shows something else' }),
    };
    const found = Object.fromEntries(fitFindings([clean, good, bad, lost], 0.6).map((f) => [f.id, f]));
    expect(found['fit.typical'].verdict).toBe('watch');
    expect(found['fit.worst'].verdict).toBe('fail');
    expect(found['fit.scale']).toMatchObject({ verdict: 'watch', value: expect.closeTo(2, 9) });
    expect(found['fit.turn']).toMatchObject({ verdict: 'watch', value: 3 });
    expect(found['fit.overlap'].verdict).toBe('fail');
    expect(found['fit.leftOut'].why).toContain('d.jpg is left out: it shows something else.');
  });

  test('frames of which only edges could be compared are named, with what that is good to', () => {
    const framed = (name: string, change: Parameters<typeof fit>[0]) => ({
      ...{ name, isReference: false, registration: fit(change) },
    });
    const [plain, faint, clear] = [
      framed('a.jpg', { bound: 0.9 }),
      framed('b.jpg', { by: 'edges', bound: 0.2 }),
      framed('c.jpg', { by: 'edges', bound: 0.62 }),
    ];
    const found = (...frames: readonly (typeof plain)[]) =>
      fitFindings(frames, 1).find((f) => f.id === 'fit.byEdges');
    expect(found(plain)).toBeUndefined();
    expect(found(plain, faint)).toMatchObject({ verdict: 'pass', value: 0.2 });
    expect(found(plain, faint, clear)).toMatchObject({ verdict: 'watch', value: 0.62 });
    expect(found(faint, clear)?.why).toMatch(/^b\.jpg, c\.jpg are lit .* good to 0\.6 px/);
  });

  test('what a frame of another size costs is said, either way', () => {
    const reference = { name: 'a.jpg', isReference: true, registration: fit({}) };
    const scaleOf = (scale: number) =>
      fitFindings(
        [reference, { name: 'b.jpg', isReference: false, registration: fit({ scale }) }],
        0.98,
      ).find((f) => f.id === 'fit.scale');
    expect(scaleOf(0.8)?.why).toMatch(
      /b\.jpg shows things at 80 % .* enlarged 1\.25 × .* finer than 1\.3 px/,
    );
    expect(scaleOf(1.5)?.why).toMatch(/b\.jpg shows things 1\.50 × as large .* detail is lost/);
    // a lens breathes: that is another sentence
    expect(scaleOf(1.02)?.why).not.toContain('b.jpg');
    expect(scaleOf(1)?.verdict).toBe('pass');
  });
});
