import { operator } from '../graph/operator';
import { fieldOf, lightOf, pictureOf } from '../graph/wanted';
import { invert, transform } from '../raster/matrix3';
import { eachPixel } from './eachPixel';
import { fresnel } from './fresnel';
import { dot, groundView, rollOf } from './groundView';
import { linearCopy } from './linearCopy';
import { plateLook } from './plateLook';
import { lightRatio } from './relight';
import { leanOf, mirrorOf, type Standing, stoodAt, type Stood, transmission } from './standing';

/** share of water's own colour, which no mirror image hides */
const BED = 0.15;
/** blur of a mirror image along the column, of the way below the waterline */
const RIPPLE = 0.05;
/** rows at which a mirror image is read, in units of its blur, and how much each counts */
const TAPS = [
  [-1.5, 0.12],
  [-0.75, 0.23],
  [0, 0.3],
  [0.75, 0.23],
  [1.5, 0.12],
] as const;

/** What a mirror image shows: a place of the plate and how far below the waterline it is seen. */
type MirrorAt = (
  x: number,
  y: number,
) => { readonly x: number; readonly y: number; readonly share: number } | undefined;

/** From a pixel of level water to the place of an upright plate that is seen in it; with the share of light that the water throws back. */
function mirror({ camera, foot, matrix }: Standing, { at, metres }: Stood): MirrorAt {
  const view = groundView(camera);
  const side = mirrorOf(matrix);
  const away = Math.sqrt(at[0] ** 2 + at[2] ** 2);
  // the card faces the camera
  const [ax, az] = [at[0] / away, at[2] / away];
  return (x, y) => {
    const water = view.groundAt(x, y);
    if (!water) return undefined;
    const d = view.ray(x, y);
    const ahead = d[0] * ax + d[2] * az;
    const t = (away - (water[0] * ax + water[2] * az)) / ahead;
    if (!(t > 0)) return undefined;
    const across = (water[0] + t * d[0] - at[0]) * az - (water[2] + t * d[2] - at[2]) * ax;
    const up = -t * d[1];
    return {
      x: foot[0] + (side * across) / metres,
      y: foot[1] - up / metres,
      share: fresnel(-d[1] / Math.sqrt(dot(d, d))),
    };
  };
}

/** Water in which a plate stands, with its mirror image. Inputs: what lies beneath the plate, the plate, and its silhouette blown up. */
export const reflectThing = operator<Standing>({
  kind: 'reflectThing',
  version: 3,
  gives: 'light',
  run: ([beneath, plate, field], standing, at) => {
    const inverse = invert(standing.matrix);
    const stood = stoodAt(standing, inverse);
    const mirrorAt = stood && mirror(standing, stood);
    if (!mirrorAt) return lightOf(beneath, 'reflectThing');
    const { matrix, camera, from, to, relight, shadow, foot, air } = standing;
    const { levels } = pictureOf(plate, 'reflectThing');
    const look = plateLook(levels);
    const body = { foot, metres: stood.metres };
    const side = mirrorOf(matrix);
    const ratio = lightRatio(
      fieldOf(field, 'reflectThing'),
      from,
      to,
      groundView(camera),
      relight,
      body,
      side,
      leanOf(standing, inverse),
    );
    const [footX, footY] = transform(inverse, ...foot);
    const [sine, cosine] = rollOf(camera);
    const scale = Math.sqrt(matrix[0] ** 2 + matrix[3] ** 2);
    const level = Math.max(0, Math.fround(Math.log2(scale * 2 ** at.level)));
    const through = transmission(air, standing.distance ?? stood.distance);
    const [pixel, factors, sum] = [new Float64Array(4), new Float64Array(3), new Float64Array(4)];
    const tile = linearCopy(beneath, 'reflectThing');
    let touched = false;
    eachPixel(at, (i, x, y) => {
      const below = (y - footY) * cosine - (x - footX) * sine;
      if (below <= 0) return;
      const blur = RIPPLE * below;
      sum.fill(0);
      let share = 0;
      for (const [offset, weight] of TAPS) {
        const by = Math.max(0.01 - below, offset * blur);
        const seen = mirrorAt(x - by * sine, y + by * cosine);
        if (!seen || seen.y > foot[1]) continue;
        look(seen.x, seen.y, level + Math.fround(Math.log2(Math.max(1, (blur * scale) / 2))), pixel);
        if (pixel[3] === 0) continue;
        ratio(seen.x, seen.y, factors);
        for (let c = 0; c < 3; c++) sum[c] += weight * pixel[c] * factors[c];
        sum[3] += weight * pixel[3];
        share += weight * pixel[3] * seen.share;
      }
      if (sum[3] === 0) return;
      touched = true;
      const thrown = share / sum[3];
      for (let c = 0; c < 3; c++) {
        const seen = air ? sum[c] * through + air.colour[c] * (1 - through) * sum[3] : sum[c];
        const plane = tile.planes[c];
        plane[i] += shadow * (thrown * seen - (1 - BED) * sum[3] * plane[i]);
      }
    });
    return touched ? tile : lightOf(beneath, 'reflectThing');
  },
});
