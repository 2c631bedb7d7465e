import { oklabOf } from '../../colour/oklab';
import { boxMean } from '../../raster/boxMean';

/** What a picture is like around each pixel: planes of Oklab, each a mean over three pixels, and how much its lightness changes there. */
export interface LocalColour {
  readonly width: number;
  readonly height: number;
  readonly L: Float32Array;
  readonly a: Float32Array;
  readonly b: Float32Array;
  /** texture: log₂ of the spread of lightness in a window of five pixels, doublings */
  readonly texture: Float32Array;
}

/** pixels around a place that its local colour looks at */
export const COLOUR_REACH = 3;
/** spread of lightness that no eye sees; below it everything is even */
const EVEN = 0.004;

/** Local colour of linear light. @param planes R, G, B, `width` × `height` */
export function localColour(planes: readonly Float32Array[], width: number, height: number): LocalColour {
  const [R, G, B] = planes;
  const lab = [0, 1, 2].map(() => new Float32Array(R.length));
  for (let i = 0; i < R.length; i++) {
    const colour = oklabOf(R[i], G[i], B[i]);
    for (let c = 0; c < 3; c++) lab[c][i] = colour[c];
  }
  const [lightness] = lab;
  const mean = boxMean(lightness, width, height, 2);
  const square = boxMean(
    lightness.map((v) => v * v),
    width,
    height,
    2,
  );
  const texture = mean.map((m, i) => Math.log2(EVEN + Math.sqrt(Math.max(0, square[i] - m * m))));
  const [L, a, b] = lab.map((plane) => boxMean(plane, width, height, 1));
  return { width, height, L, a, b, texture };
}
