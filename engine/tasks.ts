import { type ClippedShares, clippedShares } from '@/core/capture/clippedShares';
import { type CaptureFacts } from '@/core/capture/captureFacts';
import { type FrameStops, stopsOfSet } from '@/core/capture/stopsOfSet';
import { decodeImage } from '@/core/codecs/decodeImage';
import { encodeJpeg } from '@/core/codecs/encodeJpeg';
import { encodePng } from '@/core/codecs/encodePng';
import { exposeEncoded } from '@/core/finish/exposeEncoded';
import { collapseBand } from '@/core/merge/collapseBand';
import { type Merged } from '@/core/merge/exposureFusion';
import { fuseBand } from '@/core/merge/fuseBand';
import { fuseCoarse } from '@/core/merge/fuseCoarse';
import { frameLight } from '@/core/merge/movers/consistency';
import { moversOf } from '@/core/merge/movers/findMovers';
import { mergeFindings } from '@/core/merge/mergeFindings';
import { type EncodedImage, halveImage } from '@/core/raster/encodedImage';
import { type Rectangle } from '@/core/raster/raster';
import { type PairOptions, type Registration, registerPair } from '@/core/register/registerPair';
import { type Finding } from '@/core/proof/finding';
import { renderView, resultPlanes } from '@/core/view/renderView';
import { tracePoint, type Trace } from '@/core/view/tracePoint';
import { type View, type ViewScene } from '@/core/view/viewScene';
import { type Platform } from './platform';

/** A file ready to work with. */
export interface DecodedFrame {
  /** full size, then halved until the long edge is under 400 pixels; in shared memory */
  readonly levels: readonly EncodedImage[];
  readonly facts: CaptureFacts;
  readonly depth: 8 | 16 | 32;
  readonly clipped: ClippedShares;
  /** SHA-256 of the file, hexadecimal */
  readonly hash: string;
}

const SMALLEST = 400;

/** The picture and its halvings. */
export function imageLevels(image: EncodedImage): EncodedImage[] {
  const levels = [image];
  while (Math.max(levels[levels.length - 1].width, levels[levels.length - 1].height) >= SMALLEST)
    levels.push(halveImage(levels[levels.length - 1]));
  return levels;
}

/**
 * Everything that a worker can be asked for. Each is one call into the core; pixels come and go in shared memory.
 */
export function makeTasks(platform: Platform) {
  return {
    decode: async (file: string, bytes: Uint8Array): Promise<DecodedFrame> => {
      const digest = await crypto.subtle.digest('SHA-256', new Uint8Array(bytes).buffer);
      const hash = [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
      const { image, facts, depth } = await decodeImage(file, bytes, platform);
      return { levels: imageLevels(image), facts, depth, clipped: clippedShares(image), hash };
    },
    stops: (frames: readonly { image: EncodedImage; facts: CaptureFacts }[]): FrameStops[] =>
      stopsOfSet(frames),
    register: (reference: EncodedImage, frame: EncodedImage, options: PairOptions): Registration =>
      registerPair(reference, frame, options),
    frameLight,
    moversOf,
    fuseBand,
    fuseCoarse,
    collapseBand,
    levels: (image: EncodedImage): EncodedImage[] => imageLevels(image),
    mergeFindings: (merged: Merged, frames: Parameters<typeof mergeFindings>[1]): Finding[] =>
      mergeFindings(merged, frames),
    view: (scene: ViewScene, view: View, level: number, area: Rectangle): Uint8ClampedArray =>
      renderView(scene, view, level, area, level === 0 ? 'lanczos' : 'bilinear'),
    trace: (scene: ViewScene, view: View, x: number, y: number): Trace | undefined =>
      tracePoint(scene, view, x, y),
    /** rows of the finished picture: `area` of the level's grid into `out` from row `row` on */
    finish: (scene: ViewScene, level: number, area: Rectangle, out: EncodedImage, row: number): void =>
      exposeEncoded(
        resultPlanes(scene, level, area, 'lanczos'),
        scene.exposure,
        out.white,
        out.data,
        row * out.width,
      ),
    png: (image: EncodedImage): Uint8Array => encodePng(image),
    jpeg: (image: EncodedImage, quality: number): Promise<Uint8Array> =>
      encodeJpeg(image, quality, platform.encodeJpeg),
  };
}

export type Tasks = ReturnType<typeof makeTasks>;
