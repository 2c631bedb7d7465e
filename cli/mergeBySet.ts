import { sharedByAll } from '@/core/finish/commonRectangle';
import { type Merged } from '@/core/merge/exposureFusion';
import { NATURAL, type ToneBase } from '@/core/merge/radiance/toneMap';
import { PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { type LevelledFrame } from '@/core/merge/edgeFindings';
import { turnFindings } from '@/core/merge/panorama/panoramaFindings';
import { type ProjectionKind } from '@/core/merge/panorama/projection';
import { type Finding } from '@/core/proof/finding';
import { Problem } from '@/core/proof/problem';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { type Rectangle } from '@/core/raster/raster';
import { fitFindings } from '@/core/register/fitFindings';
import { type Registration } from '@/core/register/registration';
import { mergeFrames } from '@/engine/mergeFrames';
import { mergeRadiance, tonePicture } from '@/engine/mergeRadiance';
import { type SetFit } from '@/engine/fitSet';
import { mergeSet, PLAIN_WISH } from '@/engine/mergeSet';
import { type FrameStops } from '@/core/capture/stopsOfSet';
import { type WorkerPool } from '@/engine/workerPool';
import { type LoadedFrame } from './loadFrames';
import { type MergeCommand } from './readArguments';

/** A merged set, cut to what it shows, with everything that was found. */
export interface MergedSet {
  readonly image: EncodedImage;
  /** reference pixels of the picture's first pixel; absent for a panorama, which has a geometry of its own */
  readonly offset?: readonly [number, number];
  readonly projection?: ProjectionKind;
  readonly findings: readonly Finding[];
}

/** What {@link mergeBySet} is given. */
export interface MergeInput {
  readonly frames: readonly LoadedFrame[];
  readonly stops: readonly FrameStops[];
  readonly fit: SetFit;
  /** all frames in the order of the kind */
  readonly order: readonly number[];
  readonly reference: number;
  readonly progress: (text: string) => void;
}

/** Whether the light of a radiance map is written as it is: unless a tone map is asked for, or the file has no room beyond white. */
const keepsLight = ({ tone, float, out }: MergeCommand): boolean => !tone && (float || /\.exr$/i.test(out));

/** Merges a fitted set by its kind, and says what was found. */
export async function mergeBySet(
  pool: WorkerPool,
  command: MergeCommand,
  input: MergeInput,
): Promise<MergedSet> {
  const { frames, stops, fit, reference, progress } = input;
  const order = input.order.filter((i) => fit.registrations[i].fitted);
  const used = order.map((i) => usedFrame(frames[i], stops[i], fit.registrations[i]));
  const own = order.indexOf(reference);
  const { width, height } = frames[reference].levels[0];
  const placed = used.map(({ levels, matrix, name }) => ({
    width: levels[0].width,
    height: levels[0].height,
    matrix,
    name,
  }));
  let shown = 0;
  const options = {
    onProgress: (share: number): void => {
      if (share - shown < 0.25) return;
      shown = share;
      progress(`merging ${Math.round(100 * share)} %`);
    },
  };
  progress(`merging ${used.length} frames of ${width} × ${height}`);
  if (command.kind === 'panorama') {
    const { panorama } = fit;
    if (!panorama || used.length < 2)
      throw new Problem(
        `The frames do not overlap: nothing in “${frames[reference].file}” was found again in another. Shoot with about 30 % overlap.`,
      );
    const rotations = order.map((i) => panorama.rotations[i]);
    const done = await mergeSet(
      pool,
      'panorama',
      used,
      own,
      { ...PLAIN_WISH, projection: command.projection },
      { ...panorama, rotations },
      options,
    );
    const names = frames.map((f) => f.file);
    return {
      image: done.crop ? cropped(done.merged.image, done.crop) : done.merged.image,
      projection: done.projection,
      findings: [...turnFindings(panorama, names), ...done.findings],
    };
  }
  const fits = fitFindings(
    frames.map((f, i) => ({
      name: f.file,
      registration: fit.registrations[i],
      isReference: i === reference,
    })),
    sharedByAll({ x: 0, y: 0, width, height }, placed),
  );
  if (command.kind === 'bracket') {
    const pixels = used.map(({ levels, matrix, stops: ev }) => ({ image: levels[0], matrix, stops: ev }));
    const movers = { reference: own, choices: [] };
    const merged: Merged & { readonly toneBase?: ToneBase } =
      command.method === 'radiance'
        ? await mergeRadiance(pool, pixels, width, height, 'srgb', movers, options)
        : await mergeFrames(pool, pixels, width, height, PAPER_MEASURES, movers, options);
    pool.rest();
    progress('measuring the picture');
    const { toneBase } = merged;
    // halos and fringes are those of the picture that is seen
    const image = toneBase ? await tonePicture(pool, merged.image, toneBase, NATURAL) : merged.image;
    return {
      image: toneBase && keepsLight(command) ? merged.image : image,
      offset: [0, 0],
      findings: [
        ...fits,
        ...(await pool.run((tasks) => tasks.mergeFindings({ ...merged, image }, placed))),
        ...(await edgeFindings(
          pool,
          image,
          used,
          stops[reference].stops,
          merged.movers?.list.map((m) => m.box) ?? [],
        )),
      ],
    };
  }
  if (used.length < 2)
    throw new Problem(
      `None of the other frames could be fitted to “${frames[reference].file}”: ${fit.registrations.find((r) => !r.fitted)?.why ?? 'nothing is shared'}.`,
    );
  const wish = { ...PLAIN_WISH, ...(command.region ? { part: command.region } : {}) };
  const done = await mergeSet(pool, command.kind, used, own, wish, undefined, options);
  return {
    image: done.merged.image,
    offset: [0, 0],
    findings: [
      ...fits,
      ...done.findings,
      ...(await pool.run((tasks) => tasks.mergeFindings(done.merged, placed, command.kind === 'stack'))),
    ],
  };
}

function usedFrame(frame: LoadedFrame, { stops }: FrameStops, { matrix, scale }: Registration) {
  const { levels, file, measures } = frame;
  return {
    name: file,
    levels,
    matrix,
    scale,
    stops,
    noise: measures.darkNoise,
    sharpness: measures.sharpness,
  };
}

function cropped(image: EncodedImage, { x, y, width, height }: Rectangle): EncodedImage {
  const out = emptyImage(width, height, image.white);
  for (let row = 0; row < height; row++) {
    const at = ((y + row) * image.width + x) * 3;
    out.data.set(image.data.subarray(at, at + width * 3), row * width * 3);
  }
  return out;
}

/** Halo and fringe of the merged picture. */
async function edgeFindings(
  pool: WorkerPool,
  image: EncodedImage,
  frames: readonly LevelledFrame[],
  zero: number,
  moved: readonly Rectangle[],
): Promise<Finding[]> {
  const levels = await pool.run((tasks) => tasks.levels(image));
  const relative = frames.map(({ levels: own, matrix, stops }) => ({
    levels: own,
    matrix,
    stops: stops - zero,
  }));
  return pool.run((tasks) => tasks.edgeFindings(levels, relative, moved));
}
