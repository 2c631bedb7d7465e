import { type CaptureFacts } from '@/core/capture/captureFacts';
import { type SetKind } from '@/core/capture/setKind';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type PanoramaFit } from '@/core/register/rotation/fitPanorama';
import { referenceRegistration, type Registration } from '@/core/register/registerPair';
import { fitChain } from './fitChain';
import { fitFrame, fitFrames, type FitWish } from './fitFrames';
import { fitPanoramaSet, turnedRegistrations } from './fitPanoramaSet';
import { type MergeOptions } from './mergeFrames';
import { type WorkerPool } from './workerPool';

/** A frame of any set. */
export interface SetFrame {
  readonly levels: readonly EncodedImage[];
  readonly facts: CaptureFacts;
  /** exposure on the set's common scale, EV */
  readonly stops: number;
}

/** How the frames of a set lie to each other. */
export interface SetFit {
  readonly registrations: readonly Registration[];
  /** rotations and lens of a panorama */
  readonly panorama?: PanoramaFit;
}

/** Fits a set as its kind asks for. @param order the frames along what changes: focus, time, exposure */
export async function fitSet(
  pool: WorkerPool,
  kind: SetKind,
  frames: readonly SetFrame[],
  order: readonly number[],
  reference: number,
  wish: FitWish,
  options: MergeOptions = {},
): Promise<SetFit> {
  const inputs = frames.map((f) => ({ image: f.levels[0], stops: f.stops }));
  switch (kind) {
    case 'panorama': {
      const panorama = await fitPanoramaSet(pool, frames, reference, { distortion: false }, options);
      return { registrations: turnedRegistrations(panorama, reference), panorama };
    }
    case 'developments':
      return { registrations: inputs.map((f) => developed(inputs[reference].image, f.image)) };
    case 'focus': {
      const motion = wish.motion === 'auto' ? 'similarity' : wish.motion;
      return { registrations: await fitChain(pool, inputs, order, reference, { ...wish, motion }, options) };
    }
    case 'moments':
      return { registrations: await fitChain(pool, inputs, order, reference, wish, options) };
    case 'stack':
      return { registrations: await fitStack(pool, inputs, reference, wish, options) };
    case 'bracket':
    case 'swap':
      return { registrations: await fitFrames(pool, inputs, reference, wish, options) };
  }
}

/** Developments of one exposure lie on each other as they are. */
function developed(reference: EncodedImage, image: EncodedImage): Registration {
  const same = reference.width === image.width && reference.height === image.height;
  return {
    ...referenceRegistration(),
    fitted: same,
    why: same
      ? ''
      : `it is ${image.width} × ${image.height} pixels and the reference ${reference.width} × ${reference.height}`,
  };
}

/** Night frames by their stars, everything else by its structure. */
async function fitStack(
  pool: WorkerPool,
  frames: readonly { readonly image: EncodedImage; readonly stops: number }[],
  reference: number,
  wish: FitWish,
  { signal, onProgress }: MergeOptions,
): Promise<Registration[]> {
  let done = 0;
  const own = frames[reference];
  return Promise.all(
    frames.map(async (frame, i) => {
      const { width, height } = frame.image;
      const same = width === own.image.width && height === own.image.height;
      const stars =
        i !== reference && same
          ? await pool.run((tasks) => tasks.registerStars(own.image, frame.image), { signal })
          : undefined;
      const fit = stars ?? (await fitFrame(pool, own, frame, wish, signal));
      onProgress?.(++done / frames.length);
      return fit;
    }),
  );
}
