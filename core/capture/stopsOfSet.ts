import { type EncodedImage } from '../raster/encodedImage';
import { type CaptureFacts } from './captureFacts';
import { stopsBetween } from './exposureValue';
import { measureStops } from './measureStops';

/** Exposure of a frame relative to the first of its set, stops, and how it is known. */
export interface FrameStops {
  readonly stops: number;
  readonly source: 'exif' | 'measured';
}

const meanCode = (image: EncodedImage): number => {
  let sum = 0;
  let n = 0;
  for (let i = 1; i < image.data.length; i += 3 * 61, n++) sum += image.data[i];
  return sum / n / image.white;
};

/**
 * Stops of every frame relative to frame 0: from the settings when all frames know them, else measured from neighbour to
 * neighbour in order of brightness, because the two ends of a bracket share few unclipped pixels. One source for the whole set:
 * a camera's nominal times and measured ones differ by a tenth of a stop.
 */
export function stopsOfSet(
  frames: readonly { readonly image: EncodedImage; readonly facts: CaptureFacts }[],
): FrameStops[] {
  if (frames.length === 0) return [];
  const named = frames.map((f) => stopsBetween(f.facts, frames[0].facts));
  if (named.every((s): s is number => s !== undefined))
    return named.map((stops) => ({ stops, source: 'exif' }));
  const order = frames.map((_, i) => i).sort((a, b) => meanCode(frames[a].image) - meanCode(frames[b].image));
  const stops = new Array<number>(frames.length).fill(0);
  for (let k = 1; k < order.length; k++)
    stops[order[k]] =
      stops[order[k - 1]] + (measureStops(frames[order[k - 1]].image, frames[order[k]].image) ?? 0);
  return stops.map((s) => ({ stops: s - stops[0], source: 'measured' }));
}
