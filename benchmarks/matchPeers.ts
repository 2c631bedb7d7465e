import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { linearOfOklab, oklabOf } from '@/core/colour/oklab';

type Colour = [number, number, number];

/** A picture whose pixels go through a function of codes 0…1. */
function mapped(image: EncodedImage, change: (code: Colour) => readonly number[]): EncodedImage {
  const out = emptyImage(image.width, image.height, 255);
  for (let i = 0; i < image.data.length; i += 3)
    change([image.data[i] / 255, image.data[i + 1] / 255, image.data[i + 2] / 255]).forEach(
      (v, c) => (out.data[i + c] = Math.round(255 * Math.min(1, Math.max(0, v)))),
    );
  return out;
}

function moments(values: readonly (readonly number[])[]): { mean: number[]; covariance: number[][] } {
  const n = values.length;
  const mean = [0, 1, 2].map((c) => values.reduce((sum, v) => sum + v[c], 0) / n);
  const covariance = [0, 1, 2].map((p) =>
    [0, 1, 2].map((q) => values.reduce((sum, v) => sum + (v[p] - mean[p]) * (v[q] - mean[q]), 0) / n),
  );
  return { mean, covariance };
}

const toOklab = ([r, g, b]: Colour): readonly number[] =>
  oklabOf(srgbToLinear(r), srgbToLinear(g), srgbToLinear(b));
const every = (image: EncodedImage, of: (code: Colour) => readonly number[]): (readonly number[])[] =>
  Array.from({ length: Math.floor(image.data.length / 15) }, (_, k) =>
    of([0, 1, 2].map((c) => image.data[15 * k + c] / 255) as Colour),
  );

/** Means and deviations taken over (Reinhard et al. 2001), in Oklab. */
export function byMoments(target: EncodedImage, reference: EncodedImage): EncodedImage {
  const [p, q] = [moments(every(target, toOklab)), moments(every(reference, toOklab))];
  const gain = [0, 1, 2].map((c) => Math.sqrt(q.covariance[c][c] / (p.covariance[c][c] + 1e-12)));
  return mapped(target, (code) => {
    const [L, a, b] = toOklab(code).map((v, c) => q.mean[c] + gain[c] * (v - p.mean[c]));
    return linearOfOklab(L, a, b).map((v) => linearToSrgb(Math.max(0, v)));
  });
}

/** The reference's histogram, channel by channel (Gonzalez & Woods, histogram specification). */
export function byHistogram(target: EncodedImage, reference: EncodedImage): EncodedImage {
  const below = ({ data }: EncodedImage, c: number): Float64Array => {
    const out = new Float64Array(256);
    for (let i = c; i < data.length; i += 3) out[data[i]] += 3 / data.length;
    for (let v = 1; v < 256; v++) out[v] += out[v - 1];
    return out;
  };
  const tables = [0, 1, 2].map((c) => {
    const [p, q] = [below(target, c), below(reference, c)];
    let to = 0;
    return Array.from({ length: 256 }, (_, v) => {
      while (to < 255 && q[to] < p[v]) to++;
      return to / 255;
    });
  });
  return mapped(target, (code) => code.map((v, c) => tables[c][Math.round(255 * v)]));
}

/** Linear Monge–Kantorovich transport on codes (Pitié & Kokaram 2007). */
export function byLinearTransport(target: EncodedImage, reference: EncodedImage): EncodedImage {
  const [p, q] = [moments(every(target, (c) => c)), moments(every(reference, (c) => c))];
  const power = (m: Matrix, exponent: number): Matrix => {
    const { eigenvectorMatrix: V, realEigenvalues } = new EigenvalueDecomposition(m);
    return V.mmul(Matrix.diag(realEigenvalues.map((v) => Math.max(1e-7, v) ** exponent))).mmul(V.transpose());
  };
  const [P, Q] = [new Matrix(p.covariance), new Matrix(q.covariance)];
  const root = power(P, 0.5);
  const back = power(P, -0.5);
  const T = back.mmul(power(root.mmul(Q).mmul(root), 0.5)).mmul(back);
  return mapped(target, (code) =>
    [0, 1, 2].map((c) => q.mean[c] + code.reduce((sum, v, k) => sum + T.get(c, k) * (v - p.mean[k]), 0)),
  );
}
