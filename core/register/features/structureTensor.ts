import { type Kernels, kernels } from '../../kernels/kernels';
import { gaussianBlur, gaussianWeights } from '../../raster/gaussianBlur';

/** Slopes of a picture, and how much of a corner each pixel is. */
export interface Structure {
  /** half the differences of neighbours, of the smoothed picture */
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** harmonic mean of the structure tensor's eigenvalues (Brown, Szeliski & Winder 2005) */
  readonly strength: Float32Array;
}

/** smoothing before slopes are taken, and of their products, pixels */
const BEFORE = 0.8;
const WINDOW = 1.5;

/** Slopes and corner strength of a plane of luminance. */
export function structureTensor(grey: Float32Array, width: number, height: number): Structure {
  const k = kernels();
  return k ? compiledStructure(k, grey, width, height) : plainStructure(grey, width, height);
}

function compiledStructure(k: Kernels, grey: Float32Array, width: number, height: number): Structure {
  const n = grey.length;
  return k.borrow(() => {
    const plane = (): number => k.take(4 * n);
    const [before, window] = [BEFORE, WINDOW].map(gaussianWeights);
    const reach = window.length - 1;
    const [across, line] = [plane(), k.take(4 * (width + 2 * reach + 8))];
    const blur = (src: number, weights: Float32Array, out: number): void => {
      k.borrow(() =>
        k.blurPlane(src, width, height, k.upload(weights), weights.length - 1, out, across, line),
      );
    };
    const [source, soft, x, y, product] = [k.upload(grey), plane(), plane(), plane(), plane()];
    blur(source, before, soft);
    k.slopePlanes(soft, width, height, x, y);
    const squares = [
      [x, x],
      [x, y],
      [y, y],
    ].map(([a, b]) => {
      const out = plane();
      k.multiplyPlanes(a, b, n, product);
      blur(product, window, out);
      return out;
    });
    k.cornerStrength(squares[0], squares[1], squares[2], n, product);
    const copy = (at: number): Float32Array => k.floats(at, n).slice();
    return { x: copy(x), y: copy(y), strength: copy(product) };
  });
}

/** The plain form of {@link structureTensor}, which the kernels are held against. */
export function plainStructure(grey: Float32Array, width: number, height: number): Structure {
  const soft = gaussianBlur(grey, width, height, BEFORE, null);
  const [x, y] = [new Float32Array(soft.length), new Float32Array(soft.length)];
  for (let v = 1; v + 1 < height; v++)
    for (let u = 1, i = v * width + 1; u + 1 < width; u++, i++) {
      x[i] = 0.5 * (soft[i + 1] - soft[i - 1]);
      y[i] = 0.5 * (soft[i + width] - soft[i - width]);
    }
  const product = (a: Float32Array, b: Float32Array): Float32Array =>
    gaussianBlur(
      a.map((p, i) => p * b[i]),
      width,
      height,
      WINDOW,
      null,
    );
  const [xx, xy, yy] = [product(x, x), product(x, y), product(y, y)];
  const strength = xx.map((a, i) => (a + yy[i] > 1e-12 ? (a * yy[i] - xy[i] * xy[i]) / (a + yy[i]) : 0));
  return { x, y, strength };
}
