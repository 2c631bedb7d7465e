import loading from '@techstark/opencv-js';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';

/** The general-purpose library as a peer: its wasm build, one thread, called as its own documentation shows. */
interface Handle {
  delete: () => void;
}
interface Mat extends Handle {
  readonly data: Uint8Array;
  readonly data32F: Float32Array;
  readonly data64F: Float64Array;
  readonly rows: number;
}
interface Vector<T> extends Handle {
  push_back: (item: T) => void;
  get: (i: number) => T;
  size: () => number;
}
interface Cv {
  readonly Mat: new (rows?: number, cols?: number, type?: number) => Mat;
  readonly MatVector: new () => Vector<Mat>;
  readonly KeyPointVector: new () => Vector<{ readonly pt: { readonly x: number; readonly y: number } }>;
  readonly DMatchVector: new () => Vector<{ readonly queryIdx: number; readonly trainIdx: number }>;
  readonly ORB: new (
    features: number,
  ) => Handle & { detectAndCompute: (image: Mat, mask: Mat, keys: unknown, out: Mat) => void };
  readonly BFMatcher: new (
    norm: number,
    crossCheck: boolean,
  ) => Handle & { match: (a: Mat, b: Mat, out: unknown) => void };
  readonly MergeMertens: new () => Handle & {
    setExposureWeight: (w: number) => void;
    process: (frames: unknown, out: Mat, times: Mat, response: Mat) => void;
  };
  readonly Size: new (w: number, h: number) => unknown;
  readonly matFromArray: (rows: number, cols: number, type: number, data: readonly number[]) => Mat;
  readonly findHomography: (from: Mat, to: Mat, method: number, threshold: number) => Mat;
  readonly warpPerspective: (from: Mat, to: Mat, m: Mat, size: unknown, flags: number) => void;
  readonly cvtColor: (from: Mat, to: Mat, code: number) => void;
  readonly CV_8UC3: number;
  readonly CV_32FC2: number;
  readonly CV_64FC1: number;
  readonly COLOR_RGB2GRAY: number;
  readonly NORM_HAMMING: number;
  readonly RANSAC: number;
  readonly INTER_LANCZOS4: number;
  readonly INTER_LINEAR: number;
  readonly WARP_INVERSE_MAP: number;
}

export interface Peer {
  readonly load: (images: readonly EncodedImage[]) => void;
  /** ORB features, cross-checked matches, RANSAC homography: reference pixel → frame pixel */
  readonly fit: (frame: number) => Matrix3 | undefined;
  readonly warp: (frame: number, matrix: Matrix3, kernel: 'lanczos' | 'bilinear') => void;
  /** resamples every frame by Lanczos and fuses */
  readonly fuse: (matrices: readonly Matrix3[]) => void;
  readonly close: () => void;
}

export async function opencvPeer(): Promise<Peer> {
  const cv = (await (loading as unknown)) as Cv;
  let mats: Mat[] = [];
  let width = 0;
  let height = 0;
  const features = (mat: Mat) => {
    const grey = new cv.Mat();
    cv.cvtColor(mat, grey, cv.COLOR_RGB2GRAY);
    const orb = new cv.ORB(4000);
    const [keys, out, mask] = [new cv.KeyPointVector(), new cv.Mat(), new cv.Mat()];
    orb.detectAndCompute(grey, mask, keys, out);
    [grey, orb, mask].forEach((h) => h.delete());
    return { keys, out };
  };
  const warped = (mat: Mat, matrix: Matrix3, kernel: 'lanczos' | 'bilinear'): Mat => {
    const out = new cv.Mat();
    const m = cv.matFromArray(3, 3, cv.CV_64FC1, matrix);
    const flag = kernel === 'lanczos' ? cv.INTER_LANCZOS4 : cv.INTER_LINEAR;
    cv.warpPerspective(mat, out, m, new cv.Size(width, height), flag | cv.WARP_INVERSE_MAP);
    m.delete();
    return out;
  };
  const close = (): void => mats.splice(0).forEach((m) => m.delete());
  return {
    close,
    load: (images) => {
      close();
      ({ width, height } = images[0]);
      mats = images.map((image) => {
        const mat = new cv.Mat(height, width, cv.CV_8UC3);
        mat.data.set(image.data);
        return mat;
      });
    },
    fit: (frame) => {
      const [a, b] = [features(mats[0]), features(mats[frame])];
      const matcher = new cv.BFMatcher(cv.NORM_HAMMING, true);
      const matches = new cv.DMatchVector();
      let found: Matrix3 | undefined;
      if (b.out.rows > 8) {
        matcher.match(a.out, b.out, matches);
        const from: number[] = [];
        const to: number[] = [];
        for (let i = 0; i < matches.size(); i++) {
          const { queryIdx, trainIdx } = matches.get(i);
          const [p, q] = [a.keys.get(queryIdx).pt, b.keys.get(trainIdx).pt];
          from.push(p.x, p.y);
          to.push(q.x, q.y);
        }
        if (from.length >= 8) {
          const [s, d] = [from, to].map((v) => cv.matFromArray(v.length / 2, 1, cv.CV_32FC2, v));
          const h = cv.findHomography(s, d, cv.RANSAC, 3);
          if (h.rows === 3) found = [...h.data64F] as unknown as Matrix3;
          [s, d, h].forEach((m) => m.delete());
        }
      }
      [a.keys, a.out, b.keys, b.out, matcher, matches].forEach((h) => h.delete());
      return found;
    },
    warp: (frame, matrix, kernel) => warped(mats[frame], matrix, kernel).delete(),
    fuse: (matrices) => {
      const list = new cv.MatVector();
      const placed = mats.map((m, i) => (i === 0 ? m : warped(m, matrices[i], 'lanczos')));
      placed.forEach((m) => list.push_back(m));
      const [out, times, response] = [new cv.Mat(), new cv.Mat(), new cv.Mat()];
      const fusion = new cv.MergeMertens();
      fusion.setExposureWeight(1);
      fusion.process(list, out, times, response);
      [out, times, response, list, fusion, ...placed.slice(1)].forEach((h) => h.delete());
    },
  };
}
