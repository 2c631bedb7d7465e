import { describe, expect, test } from '@jest/globals';
import { deltaE2000, labOf } from '@/core/colour/deltaE';
import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { halveImage } from '@/core/raster/halveImage';
import { invert, type Matrix3 } from '@/core/raster/matrix3';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { placeMatrix } from '@/core/layers/place';
import { belong } from './belong';
import { castShadow, contactShade } from './castShadow';
import { parseFacts } from './facts';
import { fresnel } from './fresnel';
import { groundView } from './groundView';
import { inflate } from './inflate';
import { type LightRig, sourceAt, sourcesOf, towards } from './light';
import { outlineOf } from './outline';
import { ENOUGH, plateLight } from './plateLight';
import { plateLook } from './plateLook';
import { lightRatio } from './relight';
import { standingOf } from './standingOf';
import { type Standing, stoodAt, transmission } from './standing';

/** A plate that is there where a test holds, of one grey or as it is painted. */
function plateOf(
  width: number,
  height: number,
  isThere: (x: number, y: number) => boolean,
  paint: (x: number, y: number) => readonly [number, number, number] = () => [0.5, 0.5, 0.5],
): EncodedImage[] {
  const image = emptyImage(width, height, 255);
  const alpha = new Uint8Array(image.data.length);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++, i++) {
        image.data[i] = 255 * paint(x, y)[c];
        alpha[i] = isThere(x, y) ? 255 : 0;
      }
  const levels: EncodedImage[] = [{ ...image, alpha }];
  while (Math.max(levels[levels.length - 1].width, levels[levels.length - 1].height) > 8)
    levels.push(halveImage(levels[levels.length - 1]));
  return levels;
}

const LEVEL = groundView({ focal: 1000, principal: [500, 300], horizon: 300, height: 1.5 });

describe('single-view geometry', () => {
  test('ground at a row lies f·h / (y − y0) away (Criminisi, Reid, Zisserman 2000), for a level camera', () => {
    for (const row of [310, 400, 550]) {
      const ground = LEVEL.groundAt(500, row);
      expect(ground?.[2]).toBeCloseTo((1000 * 1.5) / (row - 300), 9);
      expect(ground?.[0]).toBeCloseTo(0, 9);
    }
    expect(LEVEL.groundAt(500, 300)).toBeUndefined();
    expect(LEVEL.groundAt(500, 100)).toBeUndefined();
  });

  test('a camera that looks down sees its horizon where it is said to be, and places the ground all the same', () => {
    const camera = { focal: 800, principal: [400, 300], horizon: 120, height: 2 } as const;
    const view = groundView(camera);
    expect(view.ray(400, 120)[1]).toBeCloseTo(0, 9);
    const at = view.groundAt(523, 471);
    if (!at) throw new Error('no ground');
    // back into the picture by the camera's own axes
    const along = (k: number): number => view.axes[k].reduce((sum, v, i) => sum + v * at[i], 0);
    expect(400 + (800 * along(0)) / along(2)).toBeCloseTo(523, 6);
    expect(300 - (800 * along(1)) / along(2)).toBeCloseTo(471, 6);
  });

  test('azimuth is clockwise from ahead, elevation upwards', () => {
    expect(towards({ azimuth: 0, elevation: 0 })[2]).toBeCloseTo(1, 6);
    expect(towards({ azimuth: 90, elevation: 0 })[0]).toBeCloseTo(1, 6);
    expect(towards({ azimuth: 180, elevation: 30 })[2]).toBeCloseTo(-Math.sqrt(0.75), 6);
    expect(towards({ azimuth: 42, elevation: 90 })[1]).toBeCloseTo(1, 6);
  });
});

describe('published laws', () => {
  test('Fresnel: water throws 2 % straight back, all of it at grazing, and half of its s part at Brewster’s angle (Hecht, Optics)', () => {
    expect(fresnel(1)).toBeCloseTo((0.33 / 2.33) ** 2, 9);
    expect(fresnel(0)).toBeCloseTo(1, 9);
    const brewster = Math.atan(1.33);
    // there the p part is nothing and the s part ((n² − 1) / (n² + 1))²
    expect(fresnel(Math.cos(brewster))).toBeCloseTo(((1.33 ** 2 - 1) / (1.33 ** 2 + 1)) ** 2 / 2, 9);
  });

  test('Koschmieder: at 3.912 / β two hundredths of the contrast are left', () => {
    expect(transmission({ colour: [1, 1, 1], beta: 0.02 }, 3.912 / 0.02)).toBeCloseTo(0.02, 4);
    expect(transmission(undefined, 1e4)).toBe(1);
  });

  test('a lamp counts by the inverse square of its distance', () => {
    const lamp = { azimuth: 0, elevation: 20, distance: 3, colour: [9, 18, 27] } as const;
    const [{ colour }] = sourcesOf({ sky: [0, 0, 0], bounce: [0, 0, 0], lamps: [lamp] });
    expect(colour).toEqual([1, 2, 3].map((v) => expect.closeTo(v, 9)));
  });
});

const R = 60;
const ball = (x: number, y: number): number => (x - 70) ** 2 + (y - 70) ** 2;
const isBall = (x: number, y: number): boolean => ball(x, y) < R * R;

describe('a silhouette blown up', () => {
  test('a disc becomes the square of a half ball: u = R² − r² (Gorelick et al. 2006)', () => {
    const { values, width, cell } = inflate(plateOf(141, 141, isBall));
    expect(cell).toBe(1);
    for (const [x, y] of [
      [70, 70],
      [90, 70],
      [70, 40],
      [50, 95],
    ])
      expect(Math.abs(values[y * width + x] / (R * R - ball(x, y)) - 1)).toBeLessThan(0.04);
  });

  test('a strip becomes u = 2 (w² − x²), a stem of two pixels looks at the viewer', () => {
    const strip = inflate(plateOf(81, 401, (x) => Math.abs(x - 40) < 20.5));
    // it is nothing at the first pixels outside, 21 from its middle
    expect(Math.abs(strip.values[200 * 81 + 40] / (2 * 21 ** 2) - 1)).toBeLessThan(0.01);
    const stem = inflate(plateOf(81, 401, (x) => x === 40 || x === 41));
    const at = (x: number): number => stem.values[200 * 81 + x];
    // its slope across is small against its height
    expect(Math.abs(at(41) - at(39)) / 2 / (2 * Math.sqrt(at(40)))).toBeLessThan(0.25);
  });

  test('a large plate is blown up smaller, in its own square pixels', () => {
    const large = inflate(plateOf(1200, 1200, (x, y) => (x - 600) ** 2 + (y - 600) ** 2 < 500 ** 2));
    expect([large.cell, large.width]).toEqual([4, 300]);
    expect(Math.abs(large.values[150 * 300 + 150] / 500 ** 2 - 1)).toBeLessThan(0.05);
  });
});

/** Light on a white ball by the laws that the relighting goes by, in closed form. */
function lit(rig: LightRig, x: number, y: number): [number, number, number] {
  const n = [(x - 70) / R, (70 - y) / R, -Math.sqrt(Math.max(0, 1 - ball(x, y) / R ** 2))];
  const out = rig.sky.map((s, c) => (0.5 + 0.5 * n[1]) * s + (0.5 - 0.5 * n[1]) * rig.bounce[c]);
  for (const { towards: l, colour } of sourcesOf(rig)) {
    const facing = Math.max(0, n[0] * l[0] + n[1] * l[1] + n[2] * l[2]);
    for (let c = 0; c < 3; c++) out[c] += facing * colour[c];
  }
  return out as [number, number, number];
}

const rig = (azimuth: number, elevation: number, sun: number): LightRig => ({
  sun: { azimuth, elevation, colour: [sun, 0.9 * sun, 0.7 * sun] },
  ...{ sky: [0.15, 0.18, 0.25], bounce: [0.06, 0.05, 0.04], lamps: [] },
});

describe('relighting', () => {
  const levelled = groundView({ focal: 1000, principal: [70, 70], horizon: 70, height: 1.5 });
  const error = (
    from: LightRig,
    to: LightRig,
    factors: (x: number, y: number) => ArrayLike<number>,
  ): number => {
    let [sum, n] = [0, 0];
    for (let y = 12; y < 130; y += 3)
      for (let x = 12; x < 130; x += 3) {
        if (ball(x, y) > (0.9 * R) ** 2) continue;
        const [shot, wanted, by] = [lit(from, x, y), lit(to, x, y), factors(x, y)];
        const lab = (v: readonly number[]) =>
          labOf(...(v.map((w) => Math.min(1, 0.6 * w)) as unknown as [number, number, number]));
        sum += deltaE2000(lab(shot.map((v, c) => v * by[c])), lab(wanted));
        n++;
      }
    return sum / n;
  };

  test('of a plate that lies mirrored falls on its other side: under a mirrored sun it is as before', () => {
    const field = inflate(plateOf(141, 141, isBall));
    const own = rig(30, 40, 0.6);
    const [left, right] = [rig(-70, 25, 1), rig(70, 25, 1)];
    const [plain, mirrored] = [
      lightRatio(field, own, left, levelled, 1),
      lightRatio(field, own, right, levelled, 1, undefined, -1),
    ];
    const [p, q] = [new Float64Array(3), new Float64Array(3)];
    for (let y = 20; y < 120; y += 7)
      for (let x = 20; x < 120; x += 7) {
        if (!isBall(x, y)) continue;
        plain(x, y, p);
        mirrored(x, y, q);
        for (let c = 0; c < 3; c++) expect(q[c]).toBeCloseTo(p[c], 9);
      }
  });

  test.each([
    [rig(130, 35, 0.8), rig(-70, 25, 1)],
    [rig(-120, 50, 0.7), rig(150, 20, 0.9)],
    [rig(170, 30, 0.9), rig(100, 60, 0.5)],
  ])('a ball from one light to another comes far nearer than any one gain', (from, to) => {
    const ratio = lightRatio(inflate(plateOf(141, 141, isBall)), from, to, levelled, 1);
    const out = new Float64Array(3);
    const relit = error(from, to, (x, y) => (ratio(x, y, out), out));
    const gain = Math.min(
      ...Array.from({ length: 60 }, (_, k) =>
        error(from, to, () => Array(3).fill(2 ** (k / 10 - 3)) as number[]),
      ),
    );
    expect(relit).toBeLessThan(0.5 * gain);
    expect(relit).toBeLessThan(5);
  });

  test('the same light changes nothing; half the amount is half the way in stops; factors stay within 0.2 … 5', () => {
    const field = inflate(plateOf(141, 141, isBall));
    const [a, b] = [rig(130, 35, 0.8), rig(-70, 25, 6)];
    const [whole, half, none] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
    const [all, part, same] = [
      lightRatio(field, a, b, levelled, 1),
      lightRatio(field, a, b, levelled, 0.5),
      lightRatio(field, a, a, levelled, 1),
    ];
    for (const [x, y] of [
      [40, 60],
      [70, 30],
      [110, 90],
    ]) {
      all(x, y, whole);
      part(x, y, half);
      same(x, y, none);
      for (let c = 0; c < 3; c++) {
        expect(half[c]).toBeCloseTo(Math.sqrt(whole[c]), 6);
        expect(none[c]).toBeCloseTo(1, 6);
        expect(whole[c]).toBeGreaterThanOrEqual(0.2);
        expect(whole[c]).toBeLessThanOrEqual(5);
      }
    }
  });
});

/** A post one metre high, 100 pixels of its plate, six metres away. */
const post = plateOf(40, 120, (x, y) => Math.abs(x - 20) <= 3 && y >= 10 && y < 110);
const camera = { focal: 1000, principal: [500, 300], horizon: 300, height: 1.5 } as const;
const foot = [500, 300 + (1000 * 1.5) / 6] as const;
const perPixel = 1000 / 6 / 100;
const standing = (to: LightRig): Standing => ({
  matrix: [1 / perPixel, 0, 20 - foot[0] / perPixel, 0, 1 / perPixel, 109.5 - foot[1] / perPixel, 0, 0, 1],
  ...{ camera, foot: [20, 109.5], from: to, to, water: false, relight: 1, shadow: 1 },
});

/** A post with an arm to the right. */
const arm = plateOf(
  60,
  120,
  (x, y) => (Math.abs(x - 20) <= 3 && y >= 10 && y < 110) || (x > 20 && x < 50 && y >= 30 && y < 40),
);

test('a plate that lies mirrored casts its shadow and its mirror image mirrored', () => {
  /** shadow of the post with the arm on the ground, right and ahead of its foot */
  const shadowOn = (side: 1 | -1, azimuth: number) => {
    const to = rig(azimuth, 40, 1);
    const plain = standing(to);
    const own: Standing = {
      ...plain,
      matrix: [
        side / perPixel,
        0,
        20 - (side * foot[0]) / perPixel,
        ...plain.matrix.slice(3),
      ] as unknown as Matrix3,
    };
    const stood = stoodAt(own, invert(own.matrix));
    const at = stood && castShadow(plateLook(arm), own, stood, sourcesOf(to)[0]);
    if (!stood || !at) throw new Error('no shadow');
    return (x: number, z: number): number => at([stood.at[0] + x, stood.at[1], stood.at[2] + z]);
  };
  // the sun from behind the camera throws it away from there
  const [plain, mirrored] = [shadowOn(1, 150), shadowOn(-1, -150)];
  let seen = 0;
  for (let z = 0.05; z < 1.6; z += 0.1)
    for (let x = -1; x < 1; x += 0.05) {
      expect(mirrored(-x, z)).toBeCloseTo(plain(x, z), 6);
      seen += plain(x, z);
    }
  expect(seen).toBeGreaterThan(5);
});

describe('a cast shadow', () => {
  const shadowOf = (azimuth: number, elevation: number) => {
    const to = rig(azimuth, elevation, 1);
    const own = standing(to);
    const stood = stoodAt(own, invert(own.matrix));
    const at = stood && castShadow(plateLook(post), own, stood, sourcesOf(to)[0]);
    if (!stood || !at) throw new Error('no shadow');
    return { stood, at };
  };

  test('a plate stands as far away and as large as its foot says', () => {
    const { stood } = shadowOf(40, 30);
    expect(stood.at[2]).toBeCloseTo(6, 6);
    expect(100 * stood.metres).toBeCloseTo(1, 6);
  });

  test.each([
    [-60, 25],
    [140, 45],
    [20, 15],
  ])(
    'from azimuth %i° and %i° up it lies opposite, its tip at the height over the tangent',
    (azimuth, elevation) => {
      const { stood, at } = shadowOf(azimuth, elevation);
      const reach = 1 / Math.tan((elevation * Math.PI) / 180);
      const away = ((azimuth + 180) * Math.PI) / 180;
      const ground = (length: number, turn = 0) =>
        [
          stood.at[0] + length * Math.sin(away + turn),
          stood.at[1],
          stood.at[2] + length * Math.cos(away + turn),
        ] as const;
      expect(at(ground(0.5 * reach))).toBeGreaterThan(0.9);
      expect(at(ground(0.95 * reach))).toBeGreaterThan(0.5);
      expect(at(ground(1.06 * reach))).toBeLessThan(0.1);
      expect(at(ground(-0.3 * reach))).toBe(0);
      // three degrees beside it there is none, far enough from the foot
      if (reach > 1.5) expect(at(ground(0.9 * reach, (3 * Math.PI) / 180))).toBeLessThan(0.35);
    },
  );

  test('a lamp’s shadow spreads: from a lamp twice as high as the post its tip lies as far from the post as the lamp’s foot', () => {
    // two metres up, two metres to the left of a post of one metre
    const lamp = { azimuth: -90, elevation: 45, distance: Math.sqrt(8), colour: [9, 9, 9] } as const;
    const own = standing({ sky: [0.1, 0.1, 0.1], bounce: [0, 0, 0], lamps: [lamp] });
    const stood = stoodAt(own, invert(own.matrix));
    const at = stood && castShadow(plateLook(post), own, stood, sourcesOf(own.to)[0]);
    if (!stood || !at) throw new Error('no shadow');
    const right = (metres: number) => at([stood.at[0] + metres, stood.at[1], stood.at[2]]);
    // by similar triangles: height · distance / (lamp’s height − height)
    expect(right(1.9)).toBeGreaterThan(0.5);
    expect(right(2.12)).toBeLessThan(0.1);
    expect(right(-0.5)).toBe(0);
    // nothing lies behind the lamp
    expect(right(-2.5)).toBe(0);
  });

  test('a lamp lights what is nearer to it more, by the inverse square', () => {
    const lamp = { azimuth: 180, elevation: 30, distance: 2, colour: [4, 4, 4] } as const;
    const [source] = sourcesOf({ sky: [0, 0, 0], bounce: [0, 0, 0], lamps: [lamp] });
    expect(source.colour[0]).toBeCloseTo(1, 9);
    // at the lamp's own height it is √3 metres away
    const beside = sourceAt(source, [0, 1, 0]);
    expect(beside.colour[0]).toBeCloseTo(4 / 3, 5);
    expect(beside.towards).toEqual([0, 0, -1].map((v) => expect.closeTo(v, 5)));
  });

  test('a light near the horizon casts none that could be placed', () => {
    const own = standing(rig(10, 1, 1));
    const stood = stoodAt(own, invert(own.matrix));
    if (!stood) throw new Error('stands nowhere');
    expect(castShadow(plateLook(post), own, stood, sourcesOf(own.to)[0])).toBeUndefined();
  });

  test('what touches the ground takes half of the sky’s light there, and little a height away', () => {
    const { stood } = shadowOf(40, 30);
    const contact = contactShade(stood, 0.1, 1);
    const beside = (q: number) => contact([stood.at[0] + 0.1 + q, stood.at[1], stood.at[2]]);
    // the form factor of a standing strip, at its foot: (1/π)·asin(1) = ½
    expect(beside(1e-4)).toBeCloseTo(0.5, 1);
    expect(beside(0.1)).toBeGreaterThan(beside(0.3));
    expect(beside(1)).toBeLessThan(0.02);
    expect(beside(10)).toBe(0);
  });
});

describe('making a plate belong', () => {
  const picture = emptyImage(1000, 600, 255);
  picture.data.fill(120);
  const [plate] = post;
  const facts = { focalPx: 1000, horizonRow: 300, cameraHeight: 1.5 };

  test('metres become pixels by where the foot stands; the plate lies with its foot there', () => {
    const made = belong(picture, post, { foot, height: { metres: 1 } }, facts);
    if (!made) throw new Error('stands nowhere');
    expect(made.heightPx).toBeCloseTo(1000 / 6, 0);
    // along the ray: six metres ahead, one and a half down
    expect(made.distance).toBeCloseTo(Math.hypot(6, 1.5), 1);
    const own = placeMatrix(made.place, plate, picture);
    const [x, y] = [own[0] * foot[0] + own[2], own[4] * foot[1] + own[5]];
    const outline = outlineOf(plate);
    expect([x, y]).toEqual([
      expect.closeTo(outline?.foot[0] ?? 0, 3),
      expect.closeTo(outline?.foot[1] ?? 0, 3),
    ]);
    const back = standingOf(made.space, made.stand, own, plate, picture);
    expect(stoodAt(back, invert(own))?.metres).toBeCloseTo(1 / 100, 3);
  });

  test('what is not given is estimated or assumed, and said', () => {
    const made = belong(picture, post, { foot, height: { px: 150 } }, {});
    expect(made?.told).toMatchObject({
      horizonRow: { how: 'assumed' },
      cameraHeight: { how: 'assumed' },
      light: { how: 'assumed', sure: 0 },
      plateFoot: { how: 'estimated' },
    });
    // no light is made up: the plate comes half the way to the lightness round it
    expect(made?.stand).toMatchObject({ relight: 0, shadow: 0 });
    const lightness = (v: number): number => labOf(v, v, v)[0];
    const shot = srgbToLinear(127 / 255);
    const half = (lightness(shot) + lightness(srgbToLinear(120 / 255))) / 2;
    expect(lightness(shot * 2 ** (made?.stops ?? 0))).toBeCloseTo(half, 1);
    expect(linearToSrgb(shot)).toBeCloseTo(127 / 255, 6);
  });

  test('a known distance gives the camera’s height; a foot above the horizon is refused', () => {
    const made = belong(
      picture,
      post,
      { foot, height: { px: 150 } },
      { ...facts, principal: [500, 300], cameraHeight: undefined, distance: 12 },
    );
    expect(made?.space.camera.height).toBeCloseTo((12 * 250) / Math.hypot(1000, 250), 6);
    expect(belong(picture, post, { foot: [500, 250], height: { px: 150 } }, facts)).toBeUndefined();
  });

  test('facts are read strictly; what is wrong is named', () => {
    expect(parseFacts('{"horizonRow": 88, "light": {"sky": [1, 1, 1]}}', 'f.json')).toEqual({
      horizonRow: 88,
      light: { sky: [1, 1, 1] },
    });
    expect(() => parseFacts('{', 'f.json')).toThrow(/“f.json” holds no facts .* not JSON/);
    expect(() => parseFacts('{"cameraHeight": -1}', 'f.json')).toThrow(/cameraHeight/);
    expect(() => parseFacts('{"light": {"sun": {"azimuth": 10}}}', 'f.json')).toThrow(/light.sun/);
    expect(() => parseFacts('{"horizon": 4}', 'f.json')).toThrow(/horizon/);
  });
});

describe('the light that a plate was taken in', () => {
  const shaded = (light: LightRig) =>
    plateOf(141, 141, isBall, (x, y) => {
      const [r, g, b] = lit(light, x, y).map((v) => linearToSrgb(Math.min(1, 0.3 * v)));
      return [r, g, b];
    });

  test.each([
    [130, 35],
    [-70, 25],
    [-150, 50],
    [45, 30],
  ])('is told by its shading: from azimuth %i°, %i° up', (azimuth, elevation) => {
    const found = plateLight(shaded(rig(azimuth, elevation, 1)));
    expect(found?.contrast).toBeGreaterThan(ENOUGH);
    const off = Math.abs((((found?.rig.sun?.azimuth ?? 999) - azimuth + 540) % 360) - 180);
    expect(off).toBeLessThan(20);
    expect(Math.abs((found?.rig.sun?.elevation ?? 0) - elevation)).toBeLessThan(30);
  });

  test('even light tells no direction, and what is all but nothing tells nothing', () => {
    const even: LightRig = { sky: [1, 1, 1], bounce: [1, 1, 1], lamps: [] };
    expect(plateLight(shaded(even))?.contrast).toBeLessThan(0.1);
    expect(plateLight(plateOf(20, 20, (x, y) => x < 3 && y < 3))).toBeUndefined();
  });

  test('is used in part where it is estimated, by half where it is only assumed', () => {
    const picture = emptyImage(400, 300, 255);
    picture.data.fill(90);
    const wish = { foot: [200, 250], height: { px: 100 } } as const;
    const facts = { focalPx: 400, horizonRow: 120, cameraHeight: 1.6, light: { sun: rig(20, 30, 2).sun } };
    const strong = belong(picture, shaded(rig(130, 35, 1)), wish, facts);
    expect(strong?.told.plateLight.how).toBe('estimated');
    expect(strong?.stand.relight).toBe(0.75);
    const flat = belong(picture, shaded({ sky: [1, 1, 1], bounce: [1, 1, 1], lamps: [] }), wish, facts);
    expect(flat?.told.plateLight.how).toBe('assumed');
    expect(flat?.stand.relight).toBe(0.5);
    expect(flat?.told['light.sky'].how).toBe('assumed');
  });
});
