import { kernels } from '../../kernels/kernels';
import { type EncodedImage } from '../../raster/encodedImage';
import { collapseInPlace, gaussianPyramid, laplacianInPlace, type Plane } from '../../raster/pyramid';
import { type Rectangle } from '../../raster/raster';
import { gridRow } from '../../raster/reducedGrid';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { blendTileKernels } from './blendTileKernels';
import { LEVELS, tileArea } from './tileArea';
import { type DrawnFrame, frameOnCanvas } from './frameOnCanvas';
import { evenFrame, hasVignette, type PanoramaPlan } from './planPanorama';

/**
 * Draws one tile of a panorama: the frames that reach it, evened, blended in bands so that fine detail changes over within a pixel and
 * broad tones over a hundred (multi-band blending: Burt & Adelson 1983). A margin makes tiles meet exactly.
 * @param out the whole canvas, 16 bit
 */
export function blendTile(
  ...args: [
    images: readonly EncodedImage[],
    fit: PanoramaFit,
    plan: PanoramaPlan,
    tile: Rectangle,
    out: EncodedImage,
  ]
): void {
  const k = kernels();
  if (k) blendTileKernels(k, ...args);
  else blendTilePlain(...args);
}

/** The plain form of {@link blendTile}, which the kernels are held against. */
export function blendTilePlain(
  images: readonly EncodedImage[],
  fit: PanoramaFit,
  plan: PanoramaPlan,
  tile: Rectangle,
  out: EncodedImage,
): void {
  const { canvas } = plan;
  const area = tileArea(plan, tile);
  const wish = { kernel: 'lanczos', radius: hasVignette(plan.gains) } as const;
  const drawn = fit.rotations.flatMap((rotation, i) => {
    const frame = rotation && frameOnCanvas(images[i], fit.lens, rotation, canvas, area, wish);
    if (!frame) return [];
    evenFrame(frame, plan.gains, i);
    return [{ frame, weight: labelWeight(plan, i, area, frame) }];
  });
  if (drawn.length === 0) return;
  const covered = normalise(drawn, area);
  const used = drawn.filter(({ weight }) => weight.some((w) => w > 0));
  const planes = used.length === 1 ? used[0].frame.planes : blend(used, area);
  const { white, data } = out;
  for (let y = 0; y < tile.height; y++) {
    let i = (tile.y - area.y + y) * area.width + tile.x - area.x;
    let o = ((tile.y + y) * canvas.width + tile.x) * 3;
    for (let x = 0; x < tile.width; x++, i++, o += 3) {
      if (!covered[i]) continue;
      const scale = white / Math.max(1, planes[0][i], planes[1][i], planes[2][i]);
      data[o] = Math.max(0, planes[0][i] * scale + 0.5);
      data[o + 1] = Math.max(0, planes[1][i] * scale + 0.5);
      data[o + 2] = Math.max(0, planes[2][i] * scale + 0.5);
    }
  }
}

interface Weighted {
  readonly frame: DrawnFrame;
  readonly weight: Float32Array;
}

/** The cells of a frame as a smooth outline on the canvas. */
function labelWeight(
  plan: PanoramaPlan,
  frame: number,
  area: Rectangle,
  { inside }: DrawnFrame,
): Float32Array {
  const own = Float32Array.from(plan.labels, (l) => (l === frame ? 1 : 0));
  const grid = { width: plan.gridWidth, height: plan.gridHeight, level: plan.level };
  const weight = new Float32Array(area.width * area.height);
  for (let y = 0; y < area.height; y++)
    gridRow(weight.subarray(y * area.width, (y + 1) * area.width), own, grid, area.x, area.y + y);
  for (let i = 0; i < weight.length; i++) {
    // between cells the outline runs where the share is a half, soft over a few pixels
    const w = Math.max(0, Math.min(1, (weight[i] - 0.5) * 2 + 0.5));
    weight[i] = inside[i] < 0 ? 0 : w;
  }
  return weight;
}

/** Makes the weights sum to 1; a pixel that no outline holds goes to the frame that reaches farthest past it. @returns what is covered */
function normalise(drawn: readonly Weighted[], area: Rectangle): Uint8Array {
  const covered = new Uint8Array(area.width * area.height);
  for (let i = 0; i < covered.length; i++) {
    let sum = 0;
    let best = 0;
    for (let f = 0; f < drawn.length; f++) {
      sum += drawn[f].weight[i];
      if (drawn[f].frame.inside[i] > drawn[best].frame.inside[i]) best = f;
    }
    if (drawn[best].frame.inside[i] >= 0) covered[i] = 1;
    if (sum > 1e-3) for (const { weight } of drawn) weight[i] /= sum;
    else for (let f = 0; f < drawn.length; f++) drawn[f].weight[i] = f === best ? 1 : 0;
  }
  return covered;
}

function blend(drawn: readonly Weighted[], { width, height }: Rectangle): readonly Float32Array[] {
  fillOutside(drawn, width * height);
  const plane = (data: Float32Array): Plane => ({ width, height, data });
  const weights = drawn.map(({ weight }) => gaussianPyramid(plane(weight), LEVELS));
  return [0, 1, 2].map((c) => {
    let sum: Plane[] = [];
    drawn.forEach(({ frame }, f) => {
      const levels = gaussianPyramid(plane(frame.planes[c].slice()), LEVELS);
      laplacianInPlace(levels);
      levels.forEach(({ data }, l) => {
        const w = weights[f][l].data;
        for (let i = 0; i < data.length; i++) data[i] *= w[i];
      });
      if (f === 0) sum = levels;
      else
        levels.forEach(({ data }, l) => {
          const total = sum[l].data;
          for (let i = 0; i < data.length; i++) total[i] += data[i];
        });
    });
    return collapseInPlace(sum).data;
  });
}

/** Where a frame does not reach, the others stand in for it, so that its border is no edge in its bands. */
function fillOutside(drawn: readonly Weighted[], n: number): void {
  const values = new Float32Array(3);
  for (let i = 0; i < n; i++) {
    if (drawn.every(({ frame }) => frame.inside[i] >= 0)) continue;
    values.fill(0);
    let sum = 0;
    for (const { frame, weight } of drawn) {
      const w = weight[i];
      if (w <= 0) continue;
      sum += w;
      for (let c = 0; c < 3; c++) values[c] += w * frame.planes[c][i];
    }
    for (const { frame, weight } of drawn)
      if (frame.inside[i] < 0 && weight[i] <= 0)
        for (let c = 0; c < 3; c++) frame.planes[c][i] = values[c] / sum;
  }
}
