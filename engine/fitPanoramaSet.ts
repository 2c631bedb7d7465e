import { type CaptureFacts } from '@/core/capture/captureFacts';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { turnHomography } from '@/core/register/rotation/cameraModel';
import { type PanoramaFit, type PanoramaPair } from '@/core/register/rotation/fitPanorama';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { IDENTITY, turnAndScale } from '@/core/raster/matrix3';
import { type MergeOptions } from './mergeOptions';
import { withWhole } from './wholeFrames';
import { type WorkerPool } from './workerPool';

/** A frame of a panorama. */
export interface TurnedFrame {
  readonly levels: readonly EncodedImage[];
  readonly facts: CaptureFacts;
}

/** larger frames are linked at half or quarter size: places are laid over each other to a tenth of a pixel there */
const LARGEST = 4.2e6;
/** up to so many frames every pair is tried; beyond, neighbours in order, and those that small pictures link: rows of a large panorama */
const ALL_PAIRS = 9;
const REACH = 3;
/** pixels of those small pictures */
const SMALL = 0.4e6;
/** width of the sensor that a focal length in a file is taken to be for, millimetres; only a first guess */
const FULL_FRAME = 36;

/** Fits turned frames in the pool: points, links between pairs, then one adjustment of all. */
export async function fitPanoramaSet(
  pool: WorkerPool,
  frames: readonly TurnedFrame[],
  reference: number,
  { distortion }: { readonly distortion: boolean },
  { signal, onProgress }: MergeOptions = {},
): Promise<PanoramaFit> {
  const full = frames.map((f) => f.levels[0]);
  const own = full[reference];
  const level = Math.max(0, Math.ceil(Math.log2((own.width * own.height) / LARGEST) / 2));
  const same = full.map((f) => f.width === own.width && f.height === own.height);
  const images = frames.map((f) => f.levels[Math.min(level, f.levels.length - 1)]);
  const pairsOf = frames.flatMap((_, a) =>
    frames.flatMap((__, b) => (a < b && same[a] && same[b] ? [{ a, b }] : [])),
  );
  const isNear = ({ a, b }: { a: number; b: number }): boolean =>
    frames.length <= ALL_PAIRS || b - a <= REACH;
  const far = await linkedSmall(
    pool,
    frames,
    pairsOf.filter((p) => !isNear(p)),
    signal,
  );
  const wanted = [...pairsOf.filter(isNear), ...far];
  const total = frames.length + wanted.length;
  let done = 0;
  const advance = (): void => onProgress?.(++done / total);
  const points = await Promise.all(
    images.map(async (image, i) => {
      const found = same[i]
        ? await withWhole(
            pool,
            [image],
            ([whole]) => pool.run((tasks) => tasks.landmarks(whole), { signal }),
            signal,
          )
        : undefined;
      advance();
      return found;
    }),
  );
  const linked = await Promise.all(
    wanted.map(async ({ a, b }): Promise<PanoramaPair | undefined> => {
      const [p, q] = [points[a], points[b]];
      const link = p && q && (await pool.run((tasks) => tasks.linkFrames(p, q), { signal }));
      advance();
      return link && { a, b, ...link };
    }),
  );
  const pairs = linked.filter((p): p is PanoramaPair => p !== undefined);
  const { focalLength } = frames[reference].facts;
  const small = images[reference];
  const sizes = images.map(({ width, height }) => ({ width, height }));
  const wish = {
    reference,
    distortion,
    ...(focalLength ? { focalHint: (focalLength / FULL_FRAME) * Math.max(small.width, small.height) } : {}),
  };
  const fit = await pool.run((tasks) => tasks.fitPanorama(sizes, pairs, wish), { signal });
  return enlarged(fit, own.width / small.width, own.width, own.height);
}

/** Which of some pairs show the same somewhere, as small pictures tell. */
async function linkedSmall<P extends { readonly a: number; readonly b: number }>(
  pool: WorkerPool,
  frames: readonly TurnedFrame[],
  pairs: readonly P[],
  signal: AbortSignal | undefined,
): Promise<P[]> {
  if (pairs.length === 0) return [];
  const seen = await Promise.all(
    frames.map(({ levels }) => {
      const image = levels.find(({ width, height }) => width * height <= SMALL) ?? levels[levels.length - 1];
      return pool.run((tasks) => tasks.landmarks(image), { signal });
    }),
  );
  const links = await Promise.all(
    pairs.map(({ a, b }) => pool.run((tasks) => tasks.linkFrames(seen[a], seen[b]), { signal })),
  );
  return pairs.filter((_, i) => links[i]);
}

/** The fit of reduced frames for the frames themselves. */
function enlarged(fit: PanoramaFit, scale: number, width: number, height: number): PanoramaFit {
  return {
    ...fit,
    lens: { ...fit.lens, focalPx: fit.lens.focalPx * scale, width, height },
    pairs: fit.pairs.map((p) => ({
      ...p,
      residual: p.residual * scale,
      parallax: p.parallax * scale,
      ...(p.where ? { where: { x: p.where.x * scale, y: p.where.y * scale } } : {}),
    })),
  };
}

/** The fit of each frame as a registration against the reference. */
export function turnedRegistrations(fit: PanoramaFit, reference: number): Registration[] {
  const origin = fit.rotations[reference];
  const { width, height } = fit.lens;
  return fit.rotations.map((rotation, i) => {
    if (!rotation || !origin)
      return {
        ...referenceRegistration(),
        fitted: i === reference,
        why: i === reference ? '' : 'it shares nothing with the other frames',
      };
    const matrix = i === reference ? IDENTITY : turnHomography(fit.lens, origin, rotation);
    const own = fit.pairs.filter((p) => p.a === i || p.b === i);
    const largest = (of: (p: (typeof own)[number]) => number): number => Math.max(0, ...own.map(of));
    return {
      ...referenceRegistration(),
      matrix,
      model: 'perspective',
      ...turnAndScale(matrix, (width - 1) / 2, (height - 1) / 2),
      residual: { typical: largest((p) => p.residual), worst: largest((p) => p.parallax) },
    };
  });
}
