import { operator } from '../graph/operator';
import { samplePicture } from '../graph/sample/samplePicture';
import { fieldOf } from '../graph/wanted';
import { invert, transform } from '../raster/matrix3';
import { eachPixel } from './eachPixel';
import { groundView } from './groundView';
import { linearCopy } from './linearCopy';
import { lightRatio } from './relight';
import { leanOf, mirrorOf, type Standing, stoodAt, transmission } from './standing';

/** A plate as it stands in a picture: in the picture's light, behind its air. Inputs: the plate, and its silhouette blown up. */
export const standThing = operator<Standing>({
  kind: 'standThing',
  version: 3,
  gives: 'light',
  run: ([plate, field], standing, at) => {
    const { matrix, camera, from, to, relight, air, foot } = standing;
    const sampled = samplePicture.run?.([plate], { matrix }, at);
    const tile = linearCopy(sampled, 'standThing');
    const { alpha, planes } = tile;
    const inverse = invert(matrix);
    const stood = stoodAt(standing, inverse);
    const ratio =
      relight > 0
        ? lightRatio(
            fieldOf(field, 'standThing'),
            from,
            to,
            groundView(camera),
            relight,
            stood && { foot, metres: stood.metres },
            mirrorOf(matrix),
            leanOf(standing, inverse),
          )
        : undefined;
    const through = transmission(air, standing.distance ?? stood?.distance ?? 0);
    const factors = new Float64Array([1, 1, 1]);
    eachPixel(at, (i, x, y) => {
      if (alpha && alpha[i] === 0) return;
      if (ratio) ratio(...transform(matrix, x, y), factors);
      for (let c = 0; c < 3; c++) {
        const lit = planes[c][i] * factors[c];
        planes[c][i] = air ? lit * through + air.colour[c] * (1 - through) : lit;
      }
    });
    return tile;
  },
});
