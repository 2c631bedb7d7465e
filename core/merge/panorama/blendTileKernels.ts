import { type Kernels, planeBytes } from '../../kernels/kernels';
import { warpGridInto } from '../../kernels/warpKernel';
import { CONTINUED } from '../../raster/drawByGrid';
import { type EncodedImage } from '../../raster/encodedImage';
import { levelSize } from '../../raster/pyramid';
import { type Rectangle } from '../../raster/raster';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { placesOf, radiusOf } from './frameOnCanvas';
import { LEVELS, tileArea } from './tileArea';
import { evenFrame, hasVignette, type PanoramaPlan } from './planPanorama';

/** A frame drawn in the kernels' memory. */
interface LaidFrame {
  /** where its red plane begins; green and blue follow */
  readonly picture: number;
  readonly inside: number;
  readonly weight: number;
}

/** {@link blendTile} by the compiled kernels: the frames never leave their memory. */
export function blendTileKernels(
  k: Kernels,
  images: readonly EncodedImage[],
  fit: PanoramaFit,
  plan: PanoramaPlan,
  tile: Rectangle,
  out: EncodedImage,
): void {
  const area = tileArea(plan, tile);
  const n = area.width * area.height;
  const plane = planeBytes(n);
  k.borrow(() => {
    const line = k.take(4 * plan.gridWidth + 16);
    const drawn = fit.rotations.flatMap((rotation, i): LaidFrame[] => {
      const grid = rotation && placesOf(images[i], fit.lens, rotation, plan.canvas, area);
      if (!grid) return [];
      const picture = k.take(4 * plane);
      const inside = picture + 3 * plane;
      warpGridInto(k, images[i], grid, area.width, area.height, -CONTINUED, picture, plane);
      evenFrame(
        {
          planes: [k.floats(picture, n), k.floats(picture + plane, n), k.floats(picture + 2 * plane, n)],
          inside: k.floats(inside, n),
          radius: hasVignette(plan.gains) ? radiusOf(grid, images[i], area) : NOTHING,
        },
        plan.gains,
        i,
      );
      const weight = k.take(plane);
      layOutline(k, plan, i, area, line, weight);
      k.outlineWeights(weight, inside, n);
      return [{ picture, inside, weight }];
    });
    if (drawn.length === 0) return;
    const listOf = (name: keyof LaidFrame, of: readonly LaidFrame[]): number =>
      k.addresses(of.map((f) => f[name]));
    const [covered, most] = [k.take(plane), k.take(4 * drawn.length)];
    k.settleWeights(...[listOf('weight', drawn), listOf('inside', drawn), drawn.length, n, covered, most]);
    const largest = k.floats(most, drawn.length);
    const used = drawn.filter((_, f) => largest[f] > 0);
    let made = used[0].picture;
    if (used.length > 1) {
      k.fillOutside(
        ...[listOf('picture', used), plane, listOf('weight', used), listOf('inside', used)],
        ...[used.length, n],
      );
      made = blendFrames(k, used, area, plane);
    }
    k.clearUncovered(made, plane, covered, n);
    const codes = k.take(6 * tile.width);
    for (let y = 0; y < tile.height; y++) {
      const from = (tile.y - area.y + y) * area.width + tile.x - area.x;
      k.toCodes16(made + 4 * from, plane, tile.width, codes);
      out.data.set(k.words(codes, 3 * tile.width), ((tile.y + y) * out.width + tile.x) * 3);
    }
  });
}

const NOTHING = new Float32Array(0);

/** The cells of a frame, spread over an area. */
function layOutline(
  k: Kernels,
  { labels, gridWidth, gridHeight, level }: PanoramaPlan,
  frame: number,
  area: Rectangle,
  line: number,
  out: number,
): void {
  const scale = 2 ** level;
  const rowOf = (y: number): number =>
    Math.min(gridHeight - 1, Math.max(0, Math.floor((y + 0.5) / scale - 0.5)));
  const first = rowOf(area.y);
  const end = Math.min(gridHeight, rowOf(area.y + area.height - 1) + 2);
  const cells = Float32Array.from(labels.subarray(first * gridWidth, end * gridWidth), (l) =>
    l === frame ? 1 : 0,
  );
  k.borrow(() =>
    k.spreadCellRows(
      ...[k.upload(cells), gridWidth, gridHeight, first, scale, area.x, area.y, area.width, area.height],
      ...[0, line, out],
    ),
  );
}

/** Blends frames in bands. @returns where the red plane of the result begins; the frames' own planes are used up */
function blendFrames(
  k: Kernels,
  frames: readonly LaidFrame[],
  { width, height }: Rectangle,
  plane: number,
): number {
  const sizes = Array.from({ length: LEVELS + 1 }, (_, l) => {
    const [w, h] = [levelSize(width, l), levelSize(height, l)];
    return { w, h, n: w * h };
  });
  const made = k.take(3 * plane);
  k.borrow(() => {
    const ring = k.take(5 * (width + 8) * 4);
    const room = (from: number): number[] => [from, ...sizes.slice(1).map(({ n }) => k.take(4 * n))];
    const reduceAll = (levels: readonly number[]): void => {
      for (let l = 0; l < LEVELS; l++) k.reduceLevel(levels[l], sizes[l].w, sizes[l].h, levels[l + 1], ring);
    };
    const weights = frames.map(({ weight }) => {
      const levels = room(weight);
      reduceAll(levels);
      return levels;
    });
    const coarser = room(0);
    for (let c = 0; c < 3; c++)
      k.borrow(() => {
        const sums = room(made + c * plane);
        sums.forEach((at, l) => k.floats(at, sizes[l].n).fill(0));
        frames.forEach(({ picture }, f) => {
          const levels = [picture + c * plane, ...coarser.slice(1)];
          reduceAll(levels);
          for (let l = 0; l < LEVELS; l++) {
            const [fine, coarse] = [sizes[l], sizes[l + 1]];
            k.blendLevel(
              ...([sums[l], weights[f][l], levels[l], fine.w, fine.h] as const),
              ...([levels[l + 1], coarse.w, coarse.h, ring] as const),
            );
          }
          const { n } = sizes[LEVELS];
          const [sum, w, base] = [sums[LEVELS], weights[f][LEVELS], levels[LEVELS]].map((at) =>
            k.floats(at, n),
          );
          for (let i = 0; i < n; i++) sum[i] += w[i] * base[i];
        });
        for (let l = LEVELS - 1; l >= 0; l--) {
          const [fine, coarse] = [sizes[l], sizes[l + 1]];
          k.addExpandedLevel(sums[l], fine.w, fine.h, sums[l + 1], coarse.w, coarse.h, 1, ring);
        }
      });
  });
  return made;
}
