import { operator } from '../graph/operator';
import { lightOf, pictureOf } from '../graph/wanted';
import { type EncodedImage } from '../raster/encodedImage';
import { invert } from '../raster/matrix3';
import { castShadow, contactShade } from './castShadow';
import { eachPixel } from './eachPixel';
import { dot, groundView } from './groundView';
import { sourceAt, sourcesOf } from './light';
import { linearCopy } from './linearCopy';
import { outlineOf } from './outline';
import { plateLook } from './plateLook';
import { type Standing, stoodAt, transmission } from './standing';

/** share of the shadow's reckoned depth: grass and what is near scatter light into it */
const DEPTH = 0.9;
/** long edge at which a silhouette is looked at: its base need not be known to the pixel */
const OUTLINE_EDGE = 512;

/** What a plate's base is in metres. @param metres for a pixel of the plate */
function baseOf(
  levels: readonly EncodedImage[],
  metres: number,
): { readonly halfWidth: number; readonly tall: number } {
  const found = levels.findIndex((l) => Math.max(l.width, l.height) <= OUTLINE_EDGE);
  const level = found === -1 ? levels.length - 1 : found;
  const outline = outlineOf(levels[level]);
  const scale = metres * 2 ** level;
  return outline
    ? { halfWidth: outline.halfWidth * scale, tall: Math.max(1, outline.foot[1] - outline.top) * scale }
    : { halfWidth: 0, tall: 0 };
}

/** The ground that a plate stands on, in its shadow. Inputs: what lies beneath the plate, and the plate. */
export const shadeGround = operator<Standing>({
  kind: 'shadeGround',
  version: 2,
  gives: 'light',
  run: ([beneath, plate], standing, at) => {
    const { camera, matrix, to, air, shadow } = standing;
    const stood = stoodAt(standing, invert(matrix));
    if (!stood) return lightOf(beneath, 'shadeGround');
    const { levels } = pictureOf(plate, 'shadeGround');
    const look = plateLook(levels);
    const view = groundView(camera);
    const sources = sourcesOf(to).map((source) => ({
      source,
      shadowAt: castShadow(look, standing, stood, source),
    }));
    const { halfWidth, tall } = baseOf(levels, stood.metres);
    const contact = contactShade(stood, halfWidth, tall);
    // no shadow is longer than that: what lies further is left alone
    const reach = 40 * tall + 3;
    const tile = linearCopy(beneath, 'shadeGround');
    let touched = false;
    eachPixel(at, (i, x, y) => {
      const ground = view.groundAt(x, y);
      if (!ground) return;
      const apart = Math.sqrt((ground[0] - stood.at[0]) ** 2 + (ground[2] - stood.at[2]) ** 2);
      if (apart > reach) return;
      const covered = sources.map((s) => s.shadowAt?.(ground) ?? 0);
      const taken = contact(ground);
      if (taken < 1e-4 && covered.every((s) => s === 0)) return;
      touched = true;
      const t = transmission(air, Math.sqrt(dot(ground, ground)));
      const place = [ground[0] - stood.at[0], 0, ground[2] - stood.at[2]] as const;
      const here = sources.map((s) => sourceAt(s.source, place));
      for (let c = 0; c < 3; c++) {
        let whole = to.sky[c];
        let light = to.sky[c] * (1 - taken);
        here.forEach(({ towards, colour }, k) => {
          const falls = Math.max(0, towards[1]) * colour[c];
          whole += falls;
          light += falls * (1 - covered[k]);
        });
        if (whole <= 0) continue;
        const plane = tile.planes[c];
        // the ground is seen through its air, which no shadow darkens
        const haze = air ? air.colour[c] * (1 - t) : 0;
        const own = plane[i] > 0 ? Math.max(0, Math.min(1, (plane[i] - haze) / plane[i])) : 0;
        plane[i] *= 1 - DEPTH * shadow * own * (1 - light / whole);
      }
    });
    return touched ? tile : lightOf(beneath, 'shadeGround');
  },
});
