import { type CaptureFacts } from '@/core/capture/captureFacts';
import { type SetKind } from '@/core/capture/setKind';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Rectangle } from '@/core/raster/raster';
import { type PanoramaFit } from '@/core/register/rotation/fitPanorama';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { type StarField } from '@/core/register/stars/registerStars';
import { fitBracket } from './fitBracket';
import { fitChain } from './fitChain';
import { fitFocus } from './fitFocus';
import { fitFrame, type FitInput, fitFrames, type FitWish } from './fitFrames';
import { fitPanoramaSet, turnedRegistrations } from './fitPanoramaSet';
import { type MergeOptions } from './mergeOptions';
import { withWhole } from './wholeFrames';
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

/**
 * Fits a set as its kind asks for. @param order the frames along what changes: focus, time, exposure
 * @param wish with `bend`, how a panorama's lens bends straight lines is solved too
 */
export async function fitSet(
  pool: WorkerPool,
  kind: SetKind,
  frames: readonly SetFrame[],
  order: readonly number[],
  reference: number,
  wish: FitWish & { readonly bend?: boolean },
  options: MergeOptions = {},
): Promise<SetFit> {
  const inputs = frames.map((f) => ({ image: f.levels[0], stops: f.stops }));
  switch (kind) {
    case 'panorama': {
      const panorama = await fitPanoramaSet(
        pool,
        frames,
        reference,
        { distortion: wish.bend ?? false },
        options,
      );
      return { registrations: turnedRegistrations(panorama, reference), panorama };
    }
    case 'developments':
      return { registrations: inputs.map((f) => developed(inputs[reference].image, f.image)) };
    case 'focus': {
      const motion = wish.motion === 'auto' ? 'similarity' : wish.motion;
      return { registrations: await fitFocus(pool, inputs, order, reference, { ...wish, motion }, options) };
    }
    case 'moments':
      return { registrations: await fitChain(pool, inputs, order, reference, wish, options) };
    case 'stack':
      return { registrations: await fitStack(pool, inputs, reference, wish, options) };
    case 'swap':
      return { registrations: await fitPart(pool, inputs, reference, wish, options) };
    case 'bracket': {
      const fits = await fitFrames(pool, inputs, reference, wish, options);
      return { registrations: await fitBracket(pool, { frames: inputs, reference, fits }, wish, options) };
    }
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

/** widths of the surroundings that a part is fitted with, when it shows too little by itself */
const AROUND = [2, 4] as const;

/** Fits the part that is to be swapped; where it differs too much to be fitted itself, with more and more of what is around it. */
async function fitPart(
  pool: WorkerPool,
  frames: readonly FitInput[],
  reference: number,
  wish: FitWish,
  options: MergeOptions,
): Promise<Registration[]> {
  const { region } = wish;
  const whole = { motion: wish.motion, light: 'differs' } as const;
  const fits = await fitFrames(pool, frames, reference, region ? wish : whole, options);
  if (!region) return fits;
  const { width, height } = frames[reference].image;
  return Promise.all(
    fits.map(async (fit, i) => {
      for (const k of AROUND) {
        if (fit.fitted) return fit;
        const wider = grown(region, k, width, height);
        const next = await fitFrame(
          pool,
          frames[reference],
          frames[i],
          { ...wish, region: wider },
          options.signal,
        );
        if (next.fitted) return next;
      }
      return fit.fitted ? fit : fitFrame(pool, frames[reference], frames[i], whole, options.signal);
    }),
  );
}

/** A rectangle `times` as large about its middle, kept inside the picture. */
function grown({ x, y, width, height }: Rectangle, times: number, w: number, h: number): Rectangle {
  const x0 = Math.max(0, x - ((times - 1) / 2) * width);
  const y0 = Math.max(0, y - ((times - 1) / 2) * height);
  return {
    x: x0,
    y: y0,
    width: Math.min(w - x0, times * width),
    height: Math.min(h - y0, times * height),
  };
}

/** Night frames by their stars, everything else by its structure. */
async function fitStack(
  pool: WorkerPool,
  frames: readonly FitInput[],
  reference: number,
  wish: FitWish,
  { signal, onProgress }: MergeOptions,
): Promise<Registration[]> {
  let done = 0;
  const own = frames[reference];
  const fieldOf = (image: EncodedImage): Promise<StarField> =>
    withWhole(pool, [image], ([whole]) => pool.run((tasks) => tasks.starField(whole), { signal }), signal);
  const stars = fieldOf(own.image);
  const byStars = async (image: EncodedImage): Promise<Registration | undefined> => {
    const [a, b] = await Promise.all([stars, fieldOf(image)]);
    return pool.run((tasks) => tasks.registerStars(a, b), { signal });
  };
  return Promise.all(
    frames.map(async (frame, i) => {
      const { width, height } = frame.image;
      const same = width === own.image.width && height === own.image.height;
      const fit =
        (i !== reference && same ? await byStars(frame.image) : undefined) ??
        (await fitFrame(pool, own, frame, wish, signal));
      onProgress?.(++done / frames.length);
      return fit;
    }),
  );
}
