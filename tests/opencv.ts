import loading from '@techstark/opencv-js';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';

/** The parts of OpenCV (wasm build 5.0.0) that serve as an independent implementation. */
interface Mat {
  readonly rows: number;
  readonly cols: number;
  readonly data: Uint8Array;
  readonly data32F: Float32Array;
  readonly data64F: Float64Array;
  delete: () => void;
}
interface OpenCv {
  readonly Mat: new (rows?: number, cols?: number, type?: number) => Mat;
  readonly MatVector: new () => { push_back: (m: Mat) => void; delete: () => void };
  readonly MergeMertens: new () => {
    setExposureWeight: (weight: number) => void;
    process: (frames: unknown, out: Mat, times: Mat, response: Mat) => void;
    delete: () => void;
  };
  readonly CV_8UC3: number;
  readonly CV_32FC3: number;
  readonly CV_64FC1: number;
  readonly Size: new (width: number, height: number) => unknown;
  readonly matFromArray: (rows: number, cols: number, type: number, data: readonly number[]) => Mat;
  readonly warpPerspective: (from: Mat, to: Mat, m: Mat, size: unknown, flags: number) => void;
  readonly INTER_LANCZOS4: number;
  readonly INTER_LINEAR: number;
  readonly WARP_INVERSE_MAP: number;
  readonly CV_8UC1: number;
  readonly Rect: new (x: number, y: number, width: number, height: number) => unknown;
  readonly grabCut: (
    image: Mat,
    mask: Mat,
    box: unknown,
    behind: Mat,
    before: Mat,
    rounds: number,
    mode: number,
  ) => void;
  readonly GC_INIT_WITH_MASK: number;
}

export const opencv = async (): Promise<OpenCv> => (await (loading as unknown)) as OpenCv;

/** An 8-bit picture as OpenCV holds it (R G B order kept). */
export function toMat(cv: OpenCv, image: EncodedImage): Mat {
  const mat = new cv.Mat(image.height, image.width, cv.CV_8UC3);
  mat.data.set(image.data);
  return mat;
}

/** Exposure fusion by OpenCV with the weights of the paper; interleaved floats 0…1, encoded as the inputs are. */
export function fuseWithOpenCv(cv: OpenCv, frames: readonly EncodedImage[]): Float32Array {
  const list = new cv.MatVector();
  const mats = frames.map((f) => toMat(cv, f));
  mats.forEach((m) => list.push_back(m));
  const out = new cv.Mat();
  const fusion = new cv.MergeMertens();
  // this build wants the arguments that fusion has no use for as well
  const unused = [new cv.Mat(), new cv.Mat()];
  fusion.setExposureWeight(1);
  fusion.process(list, out, unused[0], unused[1]);
  const result = out.data32F.slice();
  [...mats, ...unused, out, list, fusion].forEach((m) => m.delete());
  return result;
}

/** Resamples by OpenCV. @param matrix output pixel → source pixel */
export function warpWithOpenCv(
  cv: OpenCv,
  image: EncodedImage,
  matrix: Matrix3,
  kernel: 'lanczos' | 'bilinear',
): Uint8Array {
  const source = toMat(cv, image);
  const out = new cv.Mat();
  const map = cv.matFromArray(3, 3, cv.CV_64FC1, matrix);
  const flag = kernel === 'lanczos' ? cv.INTER_LANCZOS4 : cv.INTER_LINEAR;
  cv.warpPerspective(source, out, map, new cv.Size(image.width, image.height), flag | cv.WARP_INVERSE_MAP);
  const result = out.data.slice();
  [source, out, map].forEach((m) => m.delete());
  return result;
}

const CUT_ROUNDS = 3;

/** What OpenCV cuts out by the same dabs (Rother, Kolmogorov & Blake 2004). @param seeds [pixel] 1 “this”, 0 “not”, −1 nothing, taken as probably not */
export function cutWithOpenCv(cv: OpenCv, image: EncodedImage, seeds: Int8Array): Uint8Array {
  const source = toMat(cv, image);
  const mask = new cv.Mat(image.height, image.width, cv.CV_8UC1);
  // OpenCV's codes: 0 not, 1 this, 2 probably not, 3 probably this
  mask.data.set(seeds.map((s) => (s < 0 ? 2 : s)));
  const models = [new cv.Mat(), new cv.Mat()];
  cv.grabCut(source, mask, new cv.Rect(0, 0, 1, 1), models[0], models[1], CUT_ROUNDS, cv.GC_INIT_WITH_MASK);
  const result = mask.data.map((code) => code & 1);
  [source, mask, ...models].forEach((m) => m.delete());
  return result;
}
