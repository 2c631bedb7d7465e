import { determinant, type Matrix3, multiply, transform } from '../../raster/matrix3';

/**
 * Focal length that a homography between two turned frames of one lens implies, pixels (Szeliski & Shum 1997; Shum & Szeliski 2000), from
 * either side of it.
 * @returns none to two estimates
 */
export function focalsOf(pixels: Matrix3, width: number, height: number): number[] {
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const h = multiply([1, 0, -cx, 0, 1, -cy, 0, 0, 1], multiply(pixels, [1, 0, cx, 0, 1, cy, 0, 0, 1]));
  const estimates: number[] = [];
  const take = (square: number): void => {
    if (square > 0 && Number.isFinite(square)) estimates.push(Math.sqrt(square));
  };
  // columns of K⁻¹HK are of equal length and at right angles, and so are its rows
  take(
    larger(
      -h[0] * h[1] - h[3] * h[4],
      h[6] * h[7],
      h[0] ** 2 + h[3] ** 2 - h[1] ** 2 - h[4] ** 2,
      h[7] ** 2 - h[6] ** 2,
    ),
  );
  take(
    larger(
      -h[2] * h[5],
      h[0] * h[3] + h[1] * h[4],
      h[5] ** 2 - h[2] ** 2,
      h[0] ** 2 + h[1] ** 2 - h[3] ** 2 - h[4] ** 2,
    ),
  );
  return estimates;
}

/** The ratio whose divisor is surer. */
function larger(n0: number, d0: number, n1: number, d1: number): number {
  return Math.abs(d0) > Math.abs(d1) ? n0 / d0 : n1 / d1;
}

/** What a homography does to a picture on another one of the same size. */
export interface Shared {
  /** part of the picture that it carries onto the other, 0…1, from a grid of 24 × 16 places */
  readonly share: number;
  /** how much larger the other shows that part, in the geometric mean; 1 where nothing is shared */
  readonly scale: number;
}

/** Which part of a picture a homography carries onto another of the same size, and how much larger. */
export function sharedPart(m: Matrix3, width: number, height: number): Shared {
  let [inside, logs] = [0, 0];
  const area = Math.abs(determinant(m));
  for (let j = 0; j < 16; j++)
    for (let i = 0; i < 24; i++) {
      const [x, y] = [((i + 0.5) * width) / 24, ((j + 0.5) * height) / 16];
      const [u, v] = transform(m, x, y);
      const w = m[6] * x + m[7] * y + m[8];
      if (!(w > 0 && u >= 0 && v >= 0 && u < width && v < height)) continue;
      inside++;
      // the Jacobian of a homography is det / w³
      logs += Math.log(area / w ** 3) / 2;
    }
  return { share: inside / (24 * 16), scale: inside > 0 ? Math.exp(logs / inside) : 1 };
}
