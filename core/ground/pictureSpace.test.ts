import { describe, expect, test } from '@jest/globals';
import { PerspectiveCamera, Vector3 } from 'three';
import { deltaE2000, labOf } from '../colour/deltaE';
import { placeMatrix } from '../layers/place';
import { invert, transform } from '../raster/matrix3';
import { airBetween } from './airBetween';
import { airColour } from './airColour';
import { eyeHeight, tallOf } from './eyeHeight';
import { footMoved } from './footMoved';
import { horizonAt } from './horizonAt';
import { type GroundCamera, groundView } from './groundView';
import { type LightRig, towards } from './light';
import { litAndShaded } from './litAndShaded';
import { shadedBall } from './shadedBall';
import { shadowTip, sunOfShadow, turnBetween } from './shadowTip';
import { standFindings } from './standFindings';
import { stoodAt } from './standing';
import { standingOf } from './standingOf';

const [W, H, F, EYE] = [1500, 1000, 1300, 1.7];

/** A camera of a general-purpose library (three 0.x, PerspectiveCamera) that looks down by some degrees, and what ours says of it. */
function cameras(
  down: number,
  roll = 0,
): {
  readonly seen: (x: number, y: number, z: number) => readonly [number, number];
  readonly own: GroundCamera;
} {
  const camera = new PerspectiveCamera((360 / Math.PI) * Math.atan(H / 2 / F), W / H, 0.01, 1e5);
  camera.position.set(0, EYE, 0);
  camera.rotation.x = (-down * Math.PI) / 180;
  // a camera turned against the clock sees the horizon fall to the right
  camera.rotateZ((roll * Math.PI) / 180);
  camera.updateMatrixWorld();
  // it looks along −z; ours is the origin of what it sees
  const seen = (x: number, y: number, z: number): [number, number] => {
    const p = new Vector3(x, y + EYE, -z).project(camera);
    return [((p.x + 1) / 2) * W, ((1 - p.y) / 2) * H];
  };
  const horizon = H / 2 - (F * Math.tan((down * Math.PI) / 180)) / Math.cos((roll * Math.PI) / 180);
  return { seen, own: { focal: F, principal: [W / 2, H / 2], horizon, roll, height: EYE } };
}

describe('the space of a picture', () => {
  test.each([
    [0, 0],
    [4, 0],
    [-6, 0],
    [12, 0],
    [5, 7],
    [-3, -4],
  ])(
    'looking %d° down, leaning by %d°: places are seen where a camera of another library sees them',
    (down, roll) => {
      const { seen, own } = cameras(down, roll);
      const view = groundView(own);
      for (const place of [
        [0, -EYE, 5],
        [3, -EYE, 12],
        [-2, 0.4, 8],
        [1, 4, 30],
      ] as const) {
        const [x, y] = seen(place[0], place[1], place[2]);
        const at = view.seenAt(place);
        expect(at?.[0]).toBeCloseTo(x, roll === 0 ? 6 : 3);
        expect(at?.[1]).toBeCloseTo(y, roll === 0 ? 6 : 3);
      }
      expect(view.seenAt([0, 0, -3])).toBeUndefined();
      const [gx, gy] = seen(3, -EYE, 12);
      const ground = view.groundAt(gx, gy);
      // the sine of a lean is kept to 24 bits
      ground?.forEach((v, i) => expect(v).toBeCloseTo([3, -EYE, 12][i], roll === 0 ? 6 : 4));
      // what lies endlessly far at the eye's height is seen on the horizon
      const [hx, hy] = seen(4e6, 0, 1e7);
      expect(horizonAt(own, hx)).toBeCloseTo(hy, 2);
    },
  );

  test('a door of 2.1 m tells the height of the eye, and that tells every other height', () => {
    for (const down of [0, 5, -3]) {
      const { seen, own } = cameras(down);
      const [foot, top] = [seen(1.2, -EYE, 7), seen(1.2, 2.1 - EYE, 7)];
      expect(eyeHeight({ ...own, height: 99 }, foot, top, 2.1)).toBeCloseTo(EYE, 6);
      expect(tallOf(own, seen(-4, -EYE, 22), seen(-4, 3.6 - EYE, 22))).toBeCloseTo(3.6, 6);
    }
    const { own } = cameras(0);
    // above the horizon there is no ground, and a top under its foot is none
    expect(eyeHeight(own, [700, 480], [700, 300], 2)).toBeUndefined();
    expect(tallOf(own, [700, 700], [700, 720])).toBeUndefined();
  });

  test('a plate whose foot is put elsewhere keeps its metres, and the horizon cuts it where it did', () => {
    const { own } = cameras(5);
    const long = W;
    const space = {
      camera: {
        focal: F / long,
        principal: [W / 2 / long, H / 2 / long],
        horizon: own.horizon / long,
        height: EYE,
      },
      light: { sky: [1, 1, 1], bounce: [0, 0, 0], lamps: [] },
    } as const;
    const plate = { width: 300, height: 600 };
    const grid = { width: W, height: H };
    const stand = {
      foot: [0.25, 0.98] as const,
      light: space.light,
      ...{ water: false, relight: 0, shadow: 0 },
    };
    const place = { x: 0.4, y: 0.45, size: 0.35, turn: 0, mirrored: false };
    const stoodWith = (at: typeof place) => {
      const matrix = placeMatrix(at, plate, grid);
      const back = invert(matrix);
      const standing = standingOf(space, stand, matrix, plate, grid);
      const stood = stoodAt(standing, back);
      if (!stood) throw new Error('it stands nowhere');
      return { standing, stood, foot: transform(back, ...standing.foot), back };
    };
    const before = stoodWith(place);
    const to = [1100, 560] as const;
    const moved = footMoved(before.standing, before.stood, place, before.foot, to, long);
    if (!moved) throw new Error('it was not moved');
    const after = stoodWith({ ...place, ...moved });
    expect(after.foot[0]).toBeCloseTo(to[0], 6);
    expect(after.foot[1]).toBeCloseTo(to[1], 6);
    expect(after.stood.metres / before.stood.metres).toBeCloseTo(1, 6);
    expect(after.stood.distance).toBeGreaterThan(before.stood.distance);
    expect(footMoved(before.standing, before.stood, place, before.foot, [700, 200], long)).toBeUndefined();
  });
});

describe('shadows', () => {
  test('the end of a shadow tells the sun, and the sun the end', () => {
    const at = [1, -EYE, 9] as const;
    for (const azimuth of [-150, -60, 0, 45, 120])
      for (const elevation of [6, 25, 60]) {
        const tip = shadowTip(at, 1.8, { azimuth, elevation });
        if (!tip) throw new Error('no end');
        // as long as its height over the tangent of the sun's
        const length = Math.hypot(tip[0] - at[0], tip[2] - at[2]);
        expect(length).toBeCloseTo(1.8 / Math.tan((elevation * Math.PI) / 180), 4);
        const back = sunOfShadow(at, 1.8, tip);
        expect(back?.azimuth).toBeCloseTo(azimuth, 3);
        expect(back?.elevation).toBeCloseTo(elevation, 3);
      }
    expect(shadowTip(at, 1.8, { azimuth: 0, elevation: 1 })).toBeUndefined();
    expect(sunOfShadow(at, 1.8, at)).toBeUndefined();
  });

  test('turns between directions go the short way', () => {
    expect(turnBetween({ azimuth: 170, elevation: 0 }, { azimuth: -170, elevation: 0 })).toBe(-20);
    expect(turnBetween({ azimuth: -60, elevation: 0 }, { azimuth: 80, elevation: 0 })).toBe(-140);
  });

  test('sun and sky come back from a lit and a shaded place of the same ground', () => {
    const albedo = [0.18, 0.18, 0.18];
    const [sun, sky] = [
      [3, 2.6, 2.1],
      [0.5, 0.6, 0.9],
    ];
    const up = Math.sin((30 * Math.PI) / 180);
    const lit = albedo.map((a, c) => a * (sky[c] + up * sun[c]));
    const shaded = albedo.map((a, c) => a * sky[c]);
    const found = litAndShaded([lit[0], lit[1], lit[2]], [shaded[0], shaded[1], shaded[2]], {
      azimuth: 0,
      elevation: 30,
    });
    found?.sun.forEach((v, c) => expect(v).toBeCloseTo(sun[c], 9));
    found?.sky.forEach((v, c) => expect(v).toBeCloseTo(sky[c], 9));
    expect(litAndShaded([0.1, 0.1, 0.1], [0.1, 0.05, 0.05], { azimuth: 0, elevation: 30 })).toBeUndefined();
  });
});

describe('air', () => {
  const colour = [0.55, 0.6, 0.68] as const;
  /** Koschmieder 1924 */
  const through = (own: readonly number[], beta: number, d: number): [number, number, number] => {
    const t = Math.exp(-beta * d);
    const mixed = own.map((v, c) => v * t + colour[c] * (1 - t));
    return [mixed[0], mixed[1], mixed[2]];
  };

  test.each([0.002, 0.01, 0.025])(
    'of thickness %d is told from two places, and hazes cloth, skin, black and pale as it should',
    (beta) => {
      const grass = [0.06, 0.08, 0.03];
      const near = { colour: through(grass, beta, 12), distance: 12 };
      const far = { colour: through(grass, beta, 70), distance: 70 };
      const air = airBetween(colour, far, near);
      if (!air) throw new Error('no air');
      expect(air.beta).toBeCloseTo(beta, 6);
      for (const own of [
        [0.1, 0.05, 0.2],
        [0.4, 0.25, 0.18],
        [0.01, 0.01, 0.01],
        [0.8, 0.8, 0.75],
      ])
        for (const d of [30, 60, 90])
          expect(
            deltaE2000(labOf(...through(own, air.beta, d)), labOf(...through(own, beta, d))),
          ).toBeLessThan(0.1);
    },
  );

  test('is not told where the far place is no nearer to the air, or both are equally far', () => {
    const place = (v: number, distance: number) => ({ colour: [v, v, v] as const, distance });
    expect(airBetween(colour, place(0.1, 10), place(0.1, 60))).toBeUndefined();
    expect(airBetween(colour, place(0.2, 10), place(0.1, 60))).toBeUndefined();
    expect(airBetween(colour, place(0.1, 30), place(0.2, 30))).toBeUndefined();
  });

  test('its colour is that of the brightest third above the horizon: reeds that cover the rest do not count', () => {
    const planes = [0.5, 0.55, 0.6].map((v) =>
      Float32Array.from({ length: 300 }, (_, i) => (i % 2 ? v : 0.03)),
    );
    airColour(planes).forEach((v, c) => expect(v).toBeCloseTo([0.5, 0.55, 0.6][c], 6));
  });
});

describe('a ball', () => {
  const from = (azimuth: number, elevation: number): LightRig => ({
    sun: { azimuth, elevation, colour: [3, 3, 3] },
    ...{ sky: [0.3, 0.3, 0.3], bounce: [0.1, 0.1, 0.1], lamps: [] },
  });

  test('is lightest on the side that the sun is on, and dark towards the viewer when that is behind it', () => {
    const size = 40;
    const code = (pixels: Uint8ClampedArray, x: number, y: number): number => pixels[4 * (y * size + x)];
    const left = shadedBall(from(-90, 20), size);
    expect(code(left, 4, 18)).toBeGreaterThan(code(left, 35, 18) + 60);
    const before = shadedBall(from(180, 20), size);
    const behind = shadedBall(from(0, 20), size);
    expect(code(before, 20, 20)).toBeGreaterThan(code(behind, 20, 20) + 60);
    // outside of it nothing is drawn
    expect(left[3]).toBe(0);
  });
});

describe('findings of a plate', () => {
  const light: LightRig = {
    sun: { azimuth: -60, elevation: 25, colour: [3, 3, 3] },
    ...{ sky: [1, 1, 1], bounce: [0, 0, 0], lamps: [] },
  };
  const own: LightRig = { ...light, sun: { azimuth: 80, elevation: 40, colour: [2, 2, 2] } };
  const standing = {
    matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1],
    camera: { focal: 1000, principal: [500, 300], horizon: 280, height: 1.6 },
    foot: [500, 500],
    ...{ from: own, to: light, water: false, relight: 0, shadow: 1 },
  } as const;
  const stood = stoodAt(standing, standing.matrix);
  const plate = {
    name: 'heron',
    opacity: 1,
    standing,
    ...(stood ? { stood } : {}),
    foot: [500, 500] as const,
  };
  const scene = { light, unlit: false };
  const verdicts = (of: Parameters<typeof standFindings>) =>
    Object.fromEntries(standFindings(...of).map((f) => [f.id, f.verdict]));

  test('lit from elsewhere is said with its degrees and side, and mended by taking the picture’s light', () => {
    const turned = standFindings(plate, scene).find((f) => f.id === 'ground.light');
    expect([turned?.value, turned?.verdict]).toEqual([140, 'fail']);
    expect(turned?.why).toContain('140° to the right');
    const relit = { ...plate, standing: { ...standing, relight: 1 } };
    expect(verdicts([relit, scene])).toMatchObject({ 'ground.light': 'pass', 'ground.shadow': 'pass' });
    // mirrored it is lit from the other side, 20° off
    const matrix = [-1, 0, 1000, 0, 1, 0, 0, 0, 1] as const;
    const flipped = { ...plate, standing: { ...standing, matrix } };
    expect(standFindings(flipped, scene).find((f) => f.id === 'ground.light')?.value).toBe(20);
    // nothing is said of a light that is not known
    expect(verdicts([plate, { light, unlit: true }])['ground.light']).toBeUndefined();
  });

  test('no shadow in the sun, a foot in the air, and what shines through are said', () => {
    expect(verdicts([{ ...plate, standing: { ...standing, shadow: 0 } }, scene])['ground.shadow']).toBe(
      'watch',
    );
    const { stood: _, ...air } = plate;
    expect(standFindings(air, scene)[0].why).toContain('above the horizon');
    expect(verdicts([{ name: 'moon', opacity: 1 }, scene])['ground.foot']).toBe('watch');
    expect(verdicts([{ name: 'moon', opacity: 1, inSky: true }, scene])['ground.foot']).toBe('pass');
    expect(verdicts([{ ...plate, opacity: 0.7 }, scene])['ground.opacity']).toBe('fail');
  });
});

test('a direction points where it says: ahead of the camera is 0°, to the right 90°', () => {
  towards({ azimuth: 90, elevation: 0 }).forEach((v, i) => expect(v).toBeCloseTo([1, 0, 0][i], 6));
  towards({ azimuth: 0, elevation: 0 }).forEach((v, i) => expect(v).toBeCloseTo([0, 0, 1][i], 6));
});
