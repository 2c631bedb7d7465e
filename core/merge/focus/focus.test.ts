import { beforeAll, describe, expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { shootView, type ViewFrame } from '@/camera/shootView';
import { emptyImage, type EncodedImage } from '../../raster/encodedImage';
import { IDENTITY } from '../../raster/matrix3';
import { gaussianBlur } from '../../raster/gaussianBlur';
import { emptyRaster } from '../../raster/raster';
import { randomSource } from '../../raster/random';
import { encodeClipped } from '../../raster/srgb';
import { registerPair } from '../../register/registerPair';
import { collapseBand } from '../collapseBand';
import { exposureFusion } from '../exposureFusion';
import { fusionBuffers, type FusionPlan, planFusion } from '../fusionPlan';
import { chooseSchool } from './chooseSchool';
import { coarserEnergy, energyLevel, onHalfGrid } from './coarserEnergy';
import { fuseFocusBand } from './fuseFocusBand';
import { fuseFocusCoarse } from './fuseFocusCoarse';
import { type FocusEnergy, focusEnergy } from './focusEnergy';
import { focusFindings } from './focusFindings';
import { type FocusMap, focusMap } from './focusMap';

const W = 480;
const H = 320;
const FOCI = [0.9, 1.25, 1.8, 2.8, 5];

/** Gravel that runs from 0.8 m to 8 m, with a post standing before it. */
function gravel(): SceneView {
  const [w, h] = [640, 440];
  const light = emptyRaster(w, h);
  const distance = new Float32Array(w * h);
  const random = randomSource(3);
  const grain = Float32Array.from({ length: w * h }, () => random());
  // stones of a few pixels, each nearly even, as gravel is
  const stones = grain.map((_, i) => {
    const [x, y] = [i % w, Math.floor(i / w)];
    const stone = grain[Math.floor(y / 5) * w + Math.floor((x + 3 * (Math.floor(y / 5) % 2)) / 7)];
    // and among them larger ones, by which a blurred place can be told from an even one
    const large = grain[Math.floor(y / 37) * w + Math.floor(x / 49) + 11];
    return 0.65 * stone + 0.2 * large + 0.15 * grain[i];
  });
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const post = x > 190 && x < 214 && y > 60;
      distance[i] = post ? 1 : 8 * (0.8 / 8) ** (y / h);
      const own = post ? 0.3 + 0.3 * stones[(i * 7) % stones.length] : 0.15 + 0.6 * stones[i];
      light.planes.forEach((p, c) => (p[i] = own * [1, 0.9, 0.8][c]));
    }
  return { light, distance, field: { kind: 'flat', across: 40 } };
}

let shots: ViewFrame[];
let truth: EncodedImage;
let map: FocusMap;
const lens = { ...PLAIN_LENS, focalLength: 50, aperture: 5.6 };

beforeAll(() => {
  const scene = gravel();
  shots = FOCI.map((focus, i) =>
    shootView(scene, {
      width: W,
      height: H,
      lens: { ...lens, focus },
      stand: { yaw: 0, pitch: 0, roll: 0 },
      seconds: 0.15 / 8,
      iso: 800,
      seed: 20 + i,
    }),
  );
  truth = emptyImage(W, H, 65535);
  const { sharp, gain } = shots[0].truth;
  sharp.planes.forEach((p, c) =>
    p.forEach((v, i) => (truth.data[3 * i + c] = 65535 * encodeClipped(v * gain))),
  );
  map = focusMap(shots.map((s) => focusEnergy(s.image, IDENTITY, W, H)));
});

const psnr = (image: EncodedImage): number => {
  let square = 0;
  for (let i = 0; i < image.data.length; i++)
    square += (image.data[i] / image.white - truth.data[i] / truth.white) ** 2;
  return -10 * Math.log10(square / image.data.length);
};

/** The straightforward way: in each pixel the frame of the largest squared Laplacian. */
function laplacianSelection(): EncodedImage {
  const energy = shots.map(({ image: { data } }) => {
    const g = Float32Array.from({ length: W * H }, (_, i) => data[3 * i + 1] / 255);
    const e = new Float32Array(W * H);
    for (let y = 1; y + 1 < H; y++)
      for (let x = 1, i = y * W + 1; x + 1 < W; x++, i++)
        e[i] = (4 * g[i] - g[i - 1] - g[i + 1] - g[i - W] - g[i + W]) ** 2;
    return e;
  });
  const out = emptyImage(W, H, 65535);
  for (let i = 0; i < W * H; i++) {
    const best = energy.reduce((b, e, f) => (e[i] > energy[b][i] ? f : b), 0);
    for (let c = 0; c < 3; c++) out.data[3 * i + c] = shots[best].image.data[3 * i + c] * 257;
  }
  return out;
}

describe('a focus merge', () => {
  test('is at least 2 dB nearer to the all-in-focus truth than selection by Laplacian energy', () => {
    const frames = shots.map((s) => ({ image: s.image, matrix: IDENTITY }));
    const merged = psnr(exposureFusion(frames, W, H, map).image);
    expect(merged).toBeGreaterThan(psnr(laplacianSelection()) + 2);
    for (const s of shots) expect(merged).toBeGreaterThan(psnr(s.image) + 2);
  });

  test('knows how deep the places lie: the far top, the near bottom, and the post', () => {
    const at = (x: number, y: number): number => map.depth[(y >> 1) * map.width + (x >> 1)];
    expect(at(320, 20)).toBeGreaterThan(2.8);
    expect(at(320, 300)).toBeLessThan(1.2);
    // the post is near although the ground behind it is far
    expect(at(152, 110)).toBeLessThan(1.2);
    expect(at(100, 70)).toBeGreaterThan(2);
  });

  test('a set too large for its map gets a coarser one, which says the same', () => {
    expect([energyLevel(12, 3000, 2000), energyLevel(20, 6000, 4000), energyLevel(60, 6000, 4000)]).toEqual([
      1, 2, 3,
    ]);
    const coarse = focusMap(shots.map((s) => coarserEnergy(focusEnergy(s.image, IDENTITY, W, H))));
    const depth = onHalfGrid(coarse.depth, coarse, W, H);
    expect([coarse.level, depth.length]).toEqual([2, map.depth.length]);
    // half a frame off in the mean at most, of five
    const off = depth.reduce((sum, d, i) => sum + Math.abs(d - map.depth[i]), 0) / depth.length;
    expect(off).toBeLessThan(0.25);
    const frames = shots.map((s) => ({ image: s.image, matrix: IDENTITY }));
    const [fine, reduced] = [map, coarse].map((m) => psnr(exposureFusion(frames, W, H, m).image));
    expect(reduced).toBeGreaterThan(fine - 0.5);
    expect(reduced).toBeGreaterThan(psnr(laplacianSelection()) + 2);
  });

  test('its shares sum to one and every frame makes something', () => {
    const n = map.width * map.height;
    const mean = map.planes.map((p) => p.reduce((a, b) => a + b, 0) / n);
    expect(mean.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 4);
    for (const m of mean) expect(m).toBeGreaterThan(0.05);
  });

  test('says where no frame is sharp, and nothing of a set that is', () => {
    const gap = (m: FocusMap): number => focusFindings(m, [1])[0].value;
    const whole = gap(map);
    // a frame focused far through a wide opening leaves the post and the near ground blurred
    const far = shootView(gravel(), {
      ...{ width: W, height: H, iso: 800, seed: 31, seconds: 0.15 / 64 },
      lens: { ...lens, aperture: 2, focus: 5 },
      stand: { yaw: 0, pitch: 0, roll: 0 },
    }).image;
    const lacking = gap(focusMap([focusEnergy(far, IDENTITY, W, H)]));
    expect(whole).toBeLessThan(0.05);
    expect(lacking).toBeGreaterThan(10);
  });

  /** Stones of four sizes, as a bank has them, blurred by a Gaussian. */
  function rubble(sigma: number): EncodedImage {
    const random = randomSource(9);
    const tones = Float32Array.from({ length: 4096 }, () => random());
    const stone = (x: number, y: number, size: number): number => {
      const row = Math.floor(y / size);
      const column = Math.floor((x + (row % 2) * 0.5 * size) / (1.3 * size));
      return tones[(row * 61 + column * 7 + size) % 4096];
    };
    const plane = Float32Array.from({ length: W * H }, (_, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      return 0.15 + 0.17 * [4, 9, 21, 47].reduce((sum, size) => sum + stone(x, y, size), 0);
    });
    const soft = sigma > 0 ? gaussianBlur(plane, W, H, sigma) : plane;
    const image = emptyImage(W, H, 65535);
    soft.forEach((v, i) => image.data.fill(65535 * v, 3 * i, 3 * i + 3));
    return image;
  }
  const unsharpShare = (image: EncodedImage): number => {
    const { cells } = focusMap([focusEnergy(image, IDENTITY, W, H)]).unsharp;
    return cells.reduce((n, v) => n + v, 0) / cells.length;
  };

  test('finds nothing in sharp stones', () => expect(unsharpShare(rubble(0))).toBeLessThan(0.01));
  test.each([2, 5, 7, 10])('sees that stones are blurred by %d px', (sigma) =>
    expect(unsharpShare(rubble(sigma))).toBeGreaterThan(0.8),
  );
});

test('breathing is fitted: frames focused near and far differ in scale by what the lens does', () => {
  const scene = gravel();
  const [near, far] = [1, 2].map((focus, i) =>
    shootView(scene, {
      width: W,
      height: H,
      lens: { ...lens, aperture: 16, focus, breathing: 0.2 },
      stand: { yaw: 0, pitch: 0, roll: 0 },
      seconds: 1.2,
      iso: 100,
      seed: 40 + i,
    }),
  );
  const fit = registerPair(near.image, far.image, { stops: 0, motion: 'similarity' });
  expect(fit.fitted).toBe(true);
  const expected = far.truth.focalPx / near.truth.focalPx;
  // 0.15 px at the corner, 288 px from the middle
  expect(Math.abs(fit.scale - expected) * 288).toBeLessThan(0.15);
});

describe('the pyramid school', () => {
  const blended = (images: readonly EncodedImage[], plan: FusionPlan): EncodedImage => {
    const frames = images.map((image) => ({ image, matrix: IDENTITY }));
    const buffers = fusionBuffers(plan, frames.length);
    const out = emptyImage(plan.width, plan.height, 65535);
    for (const band of plan.bands) fuseFocusBand(frames, plan, buffers, band);
    fuseFocusCoarse(plan, buffers);
    for (const band of plan.bands) collapseBand(plan, buffers, band, out);
    return out;
  };
  const energiesOf = (images: readonly EncodedImage[]): FocusEnergy[] =>
    images.map((image) => focusEnergy(image, IDENTITY, W, H));

  test('is at least 2 dB nearer to the truth than straightforward selection, too', () => {
    const merged = blended(
      shots.map((s) => s.image),
      planFusion(W, H),
    );
    expect(psnr(merged)).toBeGreaterThan(psnr(laplacianSelection()) + 2);
  });

  test('gives the same picture in bands and in one piece', () => {
    const images = shots.slice(0, 3).map((s) => s.image);
    const plan = planFusion(W, H);
    expect(plan.bands.length).toBeGreaterThan(1);
    const whole = blended(images, { ...plan, bands: [{ top: 0, rows: H }] });
    const banded = blended(images, plan);
    let most = 0;
    whole.data.forEach((v, i) => (most = Math.max(most, Math.abs(v - banded.data[i]))));
    expect(most).toBeLessThanOrEqual(2);
  });

  test('a frame that ends early leaves the rest to the others', () => {
    const image = shots[2].image;
    const narrow = emptyImage(W - 120, H, 255);
    for (let y = 0; y < H; y++)
      narrow.data.set(shots[1].image.data.subarray(y * W * 3, (y * W + W - 120) * 3), y * (W - 120) * 3);
    const frames = [
      { image: narrow, matrix: IDENTITY },
      { image, matrix: IDENTITY },
    ];
    const plan = planFusion(W, H);
    const buffers = fusionBuffers(plan, 2);
    const out = emptyImage(W, H, 65535);
    for (const band of plan.bands) fuseFocusBand(frames, plan, buffers, band);
    fuseFocusCoarse(plan, buffers);
    for (const band of plan.bands) collapseBand(plan, buffers, band, out);
    // the first frame does not reach the right quarter
    let most = 0;
    for (let y = 40; y < H - 40; y++)
      for (let x = W - 80; x < W - 30; x++) {
        const i = (y * W + x) * 3;
        most = Math.max(most, Math.abs(out.data[i] / 257 - image.data[i]));
      }
    expect(most).toBeLessThan(3);
  });

  /** Upright stems, each at a distance of its own, before gravel far away. */
  function stems(): SceneView {
    const scene = gravel();
    const { width: w, height: h, planes } = scene.light;
    const distance = new Float32Array(w * h).fill(6);
    const random = randomSource(17);
    for (let k = 0; k < 90; k++) {
      const [left, thick, far] = [
        Math.floor(random() * w),
        5 + Math.floor(10 * random()),
        0.85 + 4 * random() ** 2,
      ];
      for (let y = 0; y < h; y++)
        for (let x = left; x < Math.min(w, left + thick); x++) {
          const i = y * w + x;
          if (distance[i] <= far) continue;
          distance[i] = far;
          const tone = 0.1 + 0.6 * random();
          planes.forEach((p) => (p[i] = tone));
        }
    }
    return { ...scene, distance };
  }

  test('is proposed: nearer to the truth among stems, and as near where depth runs evenly', () => {
    const near = (image: EncodedImage, view: ViewFrame): number => {
      const { sharp, gain } = view.truth;
      let square = 0;
      sharp.planes.forEach((p, c) =>
        p.forEach((v, i) => (square += (image.data[3 * i + c] / image.white - encodeClipped(v * gain)) ** 2)),
      );
      return -10 * Math.log10(square / image.data.length);
    };
    const compare = (views: readonly ViewFrame[]) => {
      const images = views.map((v) => v.image);
      const energies = energiesOf(images);
      const even = focusMap(energies);
      const frames = images.map((image) => ({ image, matrix: IDENTITY }));
      return {
        choice: chooseSchool(even.lost),
        byDepth: near(exposureFusion(frames, W, H, even).image, views[0]),
        byDetail: near(blended(images, planFusion(W, H)), views[0]),
      };
    };
    const gravelled = compare(shots);
    expect(gravelled.choice.school).toBe('pyramid');
    expect(gravelled.byDetail).toBeGreaterThan(gravelled.byDepth - 0.2);
    const scene = stems();
    const among = compare(
      FOCI.map((focus, i) =>
        shootView(scene, {
          ...{ width: W, height: H, seconds: 0.15 / 32, iso: 400, seed: 60 + i },
          lens: { ...lens, aperture: 2.8, focus },
          stand: { yaw: 0, pitch: 0, roll: 0 },
        }),
      ),
    );
    expect(among.choice.school).toBe('pyramid');
    expect(among.byDetail).toBeGreaterThan(among.byDepth);
  });

  test('is not proposed where little stands out of the noise', () => {
    const flat = emptyImage(W, H, 255);
    const random = randomSource(5);
    flat.data.forEach((_, i) => (flat.data[i] = 90 + 12 * random()));
    const energies = energiesOf([flat, flat]);
    expect(chooseSchool(focusMap(energies).lost)).toMatchObject({ school: 'depth' });
  });
});
