import { beforeAll, describe, expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { shootView, type ViewFrame } from '@/camera/shootView';
import { realEnvironment } from '@/tests/knownScene';
import { kernels } from '../../kernels/kernels';
import { type PlaceGrid, warpByGrid } from '../../kernels/warpKernel';
import { type EncodedImage, emptyImage } from '../../raster/encodedImage';
import { halveImage } from '../../raster/halveImage';
import { transposed } from '../../raster/matrix3';
import { rotation } from '@/camera/pose';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { blendTile } from './blendTile';
import { borderChoices } from './borderChoices';
import { chooseProjection, placeCanvas, planeAt, reducedCanvas } from './canvas';
import { coveredBox } from './coveredBox';
import { drawByGrid } from '../../raster/drawByGrid';
import { fillBorder } from './fillBorder';
import { largestBox } from './largestBox';
import { keptShare, panoramaCrop, type PanoramaPlan, panoramaTiles, planPanorama } from './planPanorama';
import { drawnFindings } from './panoramaFindings';
import { previewPanorama } from './previewPanorama';
import { type ProjectionKind, PROJECTIONS, stretchAt } from './projection';
import { frameOnCanvas } from './frameOnCanvas';
import { frameSteps, seamPlaces, type SeamStep, seamStep } from './seamStep';

const KINDS = Object.keys(PROJECTIONS) as ProjectionKind[];

describe('projections', () => {
  test.each(KINDS)('%s is undone by its inverse', (kind) => {
    const { toPlane, toRay } = PROJECTIONS[kind];
    for (const [turn, tilt] of [
      [0, 0],
      [0.7, 0.3],
      [-1.1, -0.5],
    ]) {
      const ray = [Math.cos(tilt) * Math.sin(turn), Math.sin(tilt), Math.cos(tilt) * Math.cos(turn)] as const;
      const p = toPlane(...ray);
      const back = p && toRay(p[0], p[1]);
      const k = back ? 1 / Math.hypot(...back) : 0;
      ray.forEach((v, i) => expect((back?.[i] ?? NaN) * k).toBeCloseTo(v, 9));
    }
  });

  test('a flat picture stretches by 1/cos², a cylinder not along the horizon, a map of longitudes by 1/cos of latitude', () => {
    const forty = (40 * Math.PI) / 180;
    expect(stretchAt('rectilinear', Math.tan(forty), 0)).toBeCloseTo(1 / Math.cos(forty) ** 2, 3);
    expect(stretchAt('cylindrical', 1.5, 0)).toBeCloseTo(1, 3);
    expect(stretchAt('equirectangular', 0.3, forty)).toBeCloseTo(1 / Math.cos(forty), 3);
  });

  test('Panini keeps verticals straight and stretches less than a flat picture (Sharpless et al. 2010)', () => {
    const { toPlane } = PROJECTIONS.panini;
    const column = [-0.4, 0, 0.5].map((y) => toPlane(Math.sin(0.9), y, Math.cos(0.9))?.[0]);
    expect(column[0]).toBeCloseTo(column[1] ?? NaN, 9);
    expect(column[2]).toBeCloseTo(column[1] ?? NaN, 9);
    // d = 1: u = 2 sin φ / (1 + cos φ) = 2 tan(φ/2)
    expect(column[1]).toBeCloseTo(2 * Math.tan(0.45), 9);
    expect(stretchAt('panini', 2 * Math.tan(0.5), 0)).toBeLessThan(stretchAt('rectilinear', Math.tan(1), 0));
  });
});

const W = 330;
const H = 300;
const FOCAL = 330;
const YAWS = [-34, -3, 30];
const EV = [0, 0.45, -0.3];

let images: EncodedImage[][];
let fit: PanoramaFit;
let shots: ViewFrame[];

beforeAll(() => {
  // real light carried by the registry, as a picture of longitudes and latitudes
  const light = realEnvironment('city', 1400, 700);
  const scene: SceneView = { light, field: { kind: 'round', across: 360, down: 180 } };
  const lens = { ...PLAIN_LENS, focalLength: (FOCAL * 36) / W, aperture: 2.8, vignette: 0.8 };
  shots = YAWS.map((yaw, i) =>
    shootView(scene, {
      width: W,
      height: H,
      lens,
      stand: { yaw, pitch: i - 1, roll: 0.6 * (1 - i) },
      seconds: 0.006 * 2 ** EV[i],
      iso: 100,
      seed: 60 + i,
    }),
  );
  images = shots.map((s) => {
    const levels = [s.image];
    while (levels[levels.length - 1].width > 90) levels.push(halveImage(levels[levels.length - 1]));
    return levels;
  });
  const rotations = YAWS.map((yaw, i) => transposed(rotation({ yaw, pitch: i - 1, roll: 0.6 * (1 - i) })));
  fit = { lens: { focalPx: FOCAL, k1: 0, width: W, height: H }, rotations, pairs: [] };
}, 60_000);

const full = (): EncodedImage[] => images.map((l) => l[0]);

/** Seams of a drawn panorama against its frames. */
function seamsOf(
  picture: EncodedImage,
  plan: PanoramaPlan,
  frames: readonly EncodedImage[],
  fitted: PanoramaFit,
): SeamStep {
  const places = seamPlaces(plan);
  return seamStep(
    picture,
    places,
    frames.map((image, i) => frameSteps(places, i, image, plan.canvas, fitted)),
  );
}

describe('a panorama of real light', () => {
  test('evens out exposure and vignette', () => {
    const { gains } = planPanorama(images, fit, placeCanvas(fit, 'cylindrical'));
    const [a, b, c] = gains.stops.map((s) => s[1]);
    expect(a - b).toBeCloseTo(EV[1] - EV[0], 1);
    expect(a - c).toBeCloseTo(EV[2] - EV[0], 1);
    expect(gains.vignette).toBeGreaterThan(0.5);
    expect(gains.vignette).toBeLessThan(1.1);
  });

  test('names the frame of another white balance, and none where there is none', () => {
    const names = ['left', 'middle', 'right'];
    const finding = (tinted: boolean) => {
      const own = images.map((levels, i) =>
        tinted && i === 2
          ? levels.map((image) => ({
              ...image,
              data: image.data.map((v, k) =>
                k % 3 === 0 ? 0.9 * v : k % 3 === 2 ? Math.min(255, 1.1 * v) : v,
              ),
            }))
          : levels,
      );
      const plan = planPanorama(own, fit, placeCanvas(fit, 'cylindrical'));
      const seams = { across: 0, beside: 0, within: 0 };
      return drawnFindings(fit, plan, seams, 1, names).find((f) => f.id === 'merge.balance');
    };
    expect(finding(false)?.verdict).toBe('pass');
    const told = finding(true);
    expect(told?.verdict).toBe('watch');
    expect(told?.why).toMatch(/^right had another white balance/);
  });

  test('has seams that show no more than what lies beside them', () => {
    const plan = planPanorama(images, fit, placeCanvas(fit, 'cylindrical'));
    const out = emptyImage(plan.canvas.width, plan.canvas.height, 65535);
    for (const tile of panoramaTiles(plan.canvas)) blendTile(full(), fit, plan, tile, out);
    const { across, beside, within } = seamsOf(out, plan, full(), fit);
    expect(across).toBeLessThan(beside + 0.35);
    // it adds hardly anything to what the frames show in the same places
    expect(across).toBeLessThan(within + 0.2);
  });

  test('a seam that cuts between frames of unequal brightness is no edge of theirs', () => {
    const plan = planPanorama(images, fit, placeCanvas(fit, 'cylindrical'));
    const drawn = (levels: readonly EncodedImage[]): SeamStep => {
      const out = emptyImage(plan.canvas.width, plan.canvas.height, 65535);
      // each pixel from its own frame, unblended and not evened out
      for (const tile of panoramaTiles(plan.canvas))
        levels.forEach((image, i) => {
          const rotation = fit.rotations[i];
          const wish = { kernel: 'bilinear', radius: false } as const;
          const frame = rotation && frameOnCanvas(image, fit.lens, rotation, plan.canvas, tile, wish);
          if (!frame) return;
          for (let y = 0, k = 0; y < tile.height; y++)
            for (let x = 0; x < tile.width; x++, k++) {
              const cell = ((tile.y + y) >> plan.level) * plan.gridWidth + ((tile.x + x) >> plan.level);
              const o = ((tile.y + y) * plan.canvas.width + tile.x + x) * 3;
              if (plan.labels[cell] === i)
                for (let c = 0; c < 3; c++) out.data[o + c] = 65535 * Math.min(1, frame.planes[c][k]);
            }
        });
      return seamsOf(out, plan, levels, fit);
    };
    const { across, beside, within } = drawn(full());
    // the frames of this row differ by 0.45 and 0.75 EV
    expect(across).toBeGreaterThan(1.5 * Math.max(beside, within));
  });

  test('tiles meet exactly: small tiles and large ones give the same pixels', () => {
    const plan = planPanorama(images, fit, placeCanvas(fit, 'equirectangular'));
    const draw = (size: number): EncodedImage => {
      const out = emptyImage(plan.canvas.width, plan.canvas.height, 65535);
      for (const tile of panoramaTiles(plan.canvas, size)) blendTile(full(), fit, plan, tile, out);
      return out;
    };
    const [small, large] = [draw(256), draw(2048)];
    let worst = 0;
    for (let i = 0; i < small.data.length; i++)
      worst = Math.max(worst, Math.abs(small.data[i] - large.data[i]));
    // codes of 65535: less than one of 255
    expect(worst).toBeLessThan(257);
  });

  describe('with its border bent to a rectangle', () => {
    const small = () => images.map((l) => l[0]);

    test('keeps more than the crop does, and says what either loses', () => {
      const { crop, warp } = borderChoices(small(), fit, 'panini', 'free', 240);
      expect(warp.kept).toBeGreaterThan(0.93);
      expect(warp.kept).toBeGreaterThan(crop.kept + 0.05);
      expect(crop.stretch).toBe(0);
      expect(crop.bow).toBe(0);
      expect(warp.stretch).toBeGreaterThan(1);
      // what the crop keeps, counted on its preview
      const { rgba, width } = crop.preview;
      let [all, kept] = [0, 0];
      for (let o = 3, i = 0; o < rgba.length; o += 4, i++) {
        if (rgba[o] === 0) continue;
        all++;
        const [x, y] = [i % width, Math.floor(i / width)];
        const { box } = crop;
        if (x >= box.x && x < box.x + box.width && y >= box.y && y < box.y + box.height) kept++;
      }
      expect(crop.kept).toBeCloseTo(kept / all, 1);
      // of a square less is kept
      expect(borderChoices(small(), fit, 'panini', 1, 240).crop.kept).toBeLessThan(crop.kept);
    });

    test('shows at each place what the unbent paper shows where the mesh leads', () => {
      const flat = placeCanvas(fit, 'panini');
      const mesh = fillBorder(small(), fit, flat);
      const bent = placeCanvas(fit, 'panini', undefined, mesh);
      expect(bent.width / bent.height).not.toBeCloseTo(flat.width / flat.height, 1);
      const [before, after] = [flat, bent].map((paper) => {
        const plan = planPanorama(images, fit, paper);
        const out = emptyImage(paper.width, paper.height, 65535);
        for (const tile of panoramaTiles(paper)) blendTile(full(), fit, plan, tile, out);
        return { plan, out };
      });
      const differences: number[] = [];
      for (let y = 20; y < bent.height - 20; y += 7)
        for (let x = 20; x < bent.width - 20; x += 7) {
          const [u, v] = planeAt(bent, x, y);
          const [px, py] = [u * flat.scale - flat.left, v * flat.scale - flat.top].map(Math.round);
          if (px < 1 || py < 1 || px + 1 >= flat.width || py + 1 >= flat.height) continue;
          const i = 3 * (py * flat.width + px) + 1;
          const lit = before.out.data[i];
          // where it is smooth: half a pixel off does not tell there
          const smooth = [3, -3, 3 * flat.width, -3 * flat.width].every(
            (step) => Math.abs(before.out.data[i + step] - lit) < 1500,
          );
          if (lit > 0 && smooth)
            differences.push(Math.abs(after.out.data[3 * (y * bent.width + x) + 1] - lit));
        }
      differences.sort((a, b) => a - b);
      expect(differences.length).toBeGreaterThan(300);
      expect(differences[Math.floor(0.9 * differences.length)]).toBeLessThan(1500);
      // and the largest rectangle it covers is nearly all of it
      const crop = panoramaCrop(after.plan, 'free');
      expect((crop.width * crop.height) / (bent.width * bent.height)).toBeGreaterThan(0.9);
      const names = ['left', 'middle', 'right'];
      const none = { across: 0, beside: 0, within: 0 };
      const found = (at: typeof after) => drawnFindings(fit, at.plan, none, 0.98, names).map((f) => f.id);
      expect(found(after)).toEqual(expect.arrayContaining(['merge.bent', 'merge.bow']));
      expect(found(before)).not.toContain('merge.bent');
    });
  });

  test('a preview shows the frames where the whole picture has them, within one cell', () => {
    const small = previewPanorama(
      images.map((l) => l[l.length - 1]),
      fit,
      placeCanvas(fit, 'cylindrical'),
      200,
    );
    expect(Math.max(small.width, small.height)).toBe(200);
    const plan = planPanorama(images, fit, placeCanvas(fit, 'cylindrical'));
    const k = plan.canvas.width / small.width;
    expect(small.height).toBeCloseTo(plan.canvas.height / k, -1);
    const labelled = (x: number, y: number): boolean => {
      const u = Math.min(plan.gridWidth - 1, Math.floor((x * k) / 2 ** plan.level));
      const v = Math.min(plan.gridHeight - 1, Math.floor((y * k) / 2 ** plan.level));
      return plan.labels[v * plan.gridWidth + u] >= 0;
    };
    let [agree, seen] = [0, 0];
    for (let y = 0; y < small.height; y++)
      for (let x = 0; x < small.width; x++) {
        const shown = small.rgba[4 * (y * small.width + x) + 3] > 0;
        if (shown) seen++;
        if (shown === labelled(x + 0.5, y + 0.5)) agree++;
      }
    expect(agree / (small.width * small.height)).toBeGreaterThan(0.97);
    expect(seen).toBeLessThan(small.width * small.height);
    // the tones are the frames' own
    const mean = (from: ArrayLike<number>, step: number): number => {
      let [sum, n] = [0, 0];
      for (let i = 1; i < from.length; i += step) {
        if (step === 4 && from[i + 2] === 0) continue;
        sum += from[i];
        n++;
      }
      return sum / n;
    };
    const whole = shots.reduce((t, shot) => t + mean(shot.image.data, 3) / shots.length, 0);
    expect(Math.abs(mean(small.rgba, 4) - whole)).toBeLessThan(0.2 * whole);
  });

  test('seams go around what moved', () => {
    const moved = images.map((levels) => levels.slice());
    // a figure that stands in the middle of the overlap in the second frame only
    const levels: EncodedImage[] = [{ ...images[1][0], data: images[1][0].data.slice() }];
    for (let y = 90; y < 240; y++)
      for (let x = 50; x < 80; x++) levels[0].data.fill(250, (y * W + x) * 3, (y * W + x) * 3 + 3);
    while (levels[levels.length - 1].width > 90) levels.push(halveImage(levels[levels.length - 1]));
    moved[1] = levels;
    const plan = planPanorama(moved, fit, placeCanvas(fit, 'cylindrical'));
    const cut = (l: Int16Array): number => {
      const out = emptyImage(plan.canvas.width, plan.canvas.height, 65535);
      for (const tile of panoramaTiles(plan.canvas))
        blendTile(
          moved.map((m) => m[0]),
          fit,
          { ...plan, labels: l },
          tile,
          out,
        );
      // pixels that are neither the figure nor the scene: half of either
      const own = moved.map((m) => m[0]);
      return seamsOf(out, { ...plan, labels: l }, own, fit).across;
    };
    const straight = plan.labels.map((l, i) => {
      if (l < 0) return l;
      const x = i % plan.gridWidth;
      return x < plan.gridWidth * 0.365 ? (l === 2 ? 2 : 0) : l === 0 ? 1 : l;
    });
    expect(cut(plan.labels)).toBeLessThan(cut(straight));
  });

  test('is cropped to what is covered, and says how much is kept', () => {
    const plan = planPanorama(images, fit, placeCanvas(fit, 'cylindrical'));
    const crop = panoramaCrop(plan, 'free');
    const kept = keptShare(plan, crop);
    expect(kept).toBeGreaterThan(0.7);
    expect(kept).toBeLessThan(1);
    const box = coveredBox(fit, plan.canvas, [1, 0, 0, 0, 1, 0, 0, 0, 1], 'free');
    expect(Math.abs((box?.width ?? 0) / crop.width - 1)).toBeLessThan(0.06);
    const square = coveredBox(fit, plan.canvas, [1, 0, 0, 0, 1, 0, 0, 0, 1], 1);
    expect(Math.abs((square?.width ?? 0) - (square?.height ?? 9))).toBeLessThanOrEqual(4);
  });

  test('a canvas never exceeds what is allowed, and its reduction covers the same view', () => {
    const canvas = placeCanvas(fit, 'cylindrical', 50_000);
    expect(canvas.width * canvas.height).toBeLessThan(52_000);
    const half = reducedCanvas(canvas, 1);
    expect((half.left + 0) / half.scale).toBeCloseTo((canvas.left + 0.5) / canvas.scale, 6);
  });

  test('recommends by the field: flat for little, a cylinder for much', () => {
    const turned = (yaws: readonly number[]): PanoramaFit => ({
      ...fit,
      rotations: yaws.map((yaw) => transposed(rotation({ yaw, pitch: 0, roll: 0 }))),
    });
    expect(chooseProjection(turned([-5, 5])).recommended).toBe('rectilinear');
    const wide = chooseProjection(turned([-75, -40, 0, 40, 75]));
    expect(wide.recommended).toBe('cylindrical');
    expect(wide.choices.find((c) => c.kind === 'rectilinear')?.whole).toBe(false);
  });
});

test('the largest box of a mask with a hole', () => {
  const mask = Uint8Array.from({ length: 60 }, (_, i) => (i === 23 ? 0 : 1));
  // 10 × 6 with a hole at (3, 2): right of it 6 × 6, below it 10 × 3
  expect(largestBox(mask, 10, 6, 'free')).toEqual({ x: 4, y: 0, width: 6, height: 6 });
  expect(largestBox(new Uint8Array(60), 10, 6, 'free')).toBeUndefined();
  // of a kept ratio, the one in the middle
  expect(largestBox(new Uint8Array(60).fill(1), 10, 6, 1)).toEqual({ x: 2, y: 0, width: 6, height: 6 });
  const notched = Uint8Array.from({ length: 60 }, (_, i) => (i === 4 || i === 5 ? 0 : 1));
  expect(largestBox(notched, 10, 6, 1)?.x).toBeGreaterThan(0);
});

test.each([255, 65535] as const)(
  'the kernel of a warp by a grid agrees with its plain form (white %i)',
  (white) => {
    const k = kernels();
    if (!k) throw new Error('no kernels here');
    const source = emptyImage(40, 30, white);
    for (let i = 0; i < source.data.length; i++)
      source.data[i] = ((i * 97) % 251) * (white === 255 ? 1 : 257);
    const grid: PlaceGrid = { width: 7, height: 5, cell: 8, places: new Float64Array(70) };
    for (let y = 0, o = 0; y < 5; y++)
      for (let x = 0; x < 7; x++, o += 2) {
        grid.places[o] = 0.83 * 8 * x - 3.2 + 0.5 * y;
        grid.places[o + 1] = 0.9 * 8 * y - 1.7 - 0.2 * x;
      }
    const a = warpByGrid(k, source, grid, 48, 32, -64);
    const b = drawByGrid(source, grid, 48, 32, 'lanczos');
    for (let i = 0; i < 48 * 32; i++) {
      expect(Math.abs(a.inside[i] - b.inside[i])).toBeLessThan(1e-3);
      for (let c = 0; c < 3; c++) expect(Math.abs(a.planes[c][i] - b.planes[c][i])).toBeLessThan(2e-3);
    }
  },
);
