import { operator } from '../graph/operator';
import { inLight } from '../graph/light';
import { samplePicture } from '../graph/sample/samplePicture';
import { type At, type LightTile, type Value } from '../graph/tile';
import { fieldOf, lightOf, pictureOf } from '../graph/wanted';
import { type EncodedImage } from '../raster/encodedImage';
import { invert, levelToFull, transform } from '../raster/matrix3';
import { castShadow, contactShade } from './castShadow';
import { fresnel } from './fresnel';
import { dot, groundView } from './groundView';
import { sourcesOf } from './light';
import { outlineOf } from './outline';
import { plateLook } from './plateLook';
import { lightRatio } from './relight';
import { type Standing, stoodAt, transmission } from './standing';

/** share of the shadow's reckoned depth: grass and what is near scatter light into it */
const DEPTH = 0.9;
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

/** Full-size pixel of a pixel of a tile. */
const toFull = ({ level }: At): ((x: number, y: number) => readonly [number, number]) => {
  const m = levelToFull(level);
  return (x, y) => transform(m, x, y);
};

function linear(value: Value | undefined, by: string): LightTile {
  const { planes, alpha } = inLight(lightOf(value, by), false);
  return { is: 'light', encoded: false, planes: planes.map((p) => p.slice()), ...(alpha ? { alpha } : {}) };
}

/** Calls a function for every pixel of a tile, with its place at full size. */
function eachPixel(at: At, each: (i: number, x: number, y: number) => void): void {
  const full = toFull(at);
  const { x, y, width, height } = at.area;
  for (let v = 0, i = 0; v < height; v++)
    for (let u = 0; u < width; u++, i++) {
      const [px, py] = full(x + u, y + v);
      each(i, px, py);
    }
}

/** A plate as it stands in a picture: in the picture's light, behind its air. Inputs: the plate, and its silhouette blown up. */
export const standThing = operator<Standing>({
  kind: 'standThing',
  version: 1,
  gives: 'light',
  run: ([plate, field], standing, at) => {
    const { matrix, camera, from, to, relight, air } = standing;
    const sampled = samplePicture.run?.([plate], { matrix }, at);
    const tile = linear(sampled, 'standThing');
    const { alpha, planes } = tile;
    const stood = stoodAt(standing, invert(matrix));
    const ratio =
      relight > 0
        ? lightRatio(fieldOf(field, 'standThing'), from, to, groundView(camera), relight)
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
  version: 1,
  gives: 'light',
  run: ([beneath, plate], standing, at) => {
    const { camera, matrix, to, air, shadow } = standing;
    const stood = stoodAt(standing, invert(matrix));
    if (!stood) return lightOf(beneath, 'shadeGround');
    const { levels } = pictureOf(plate, 'shadeGround');
    const look = plateLook(levels);
    const view = groundView(camera);
    const sources = sourcesOf(to).flatMap((source) => {
      const shadowAt = castShadow(look, standing, stood, source);
      const upright = Math.max(0, source.towards[1]);
      return upright > 0 ? [{ ...source, upright, shadowAt }] : [];
    });
    const { halfWidth, tall } = baseOf(levels, stood.metres);
    const contact = contactShade(stood, halfWidth, tall);
    const whole = [0, 1, 2].map(
      (c) => to.sky[c] + sources.reduce((sum, s) => sum + s.upright * s.colour[c], 0),
    );
    // no shadow is longer than that: what lies further is left alone
    const reach = 40 * tall + 3;
    const tile = linear(beneath, 'shadeGround');
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
      for (let c = 0; c < 3; c++) {
        if (whole[c] <= 0) continue;
        let light = to.sky[c] * (1 - taken);
        sources.forEach((s, k) => (light += s.upright * s.colour[c] * (1 - covered[k])));
        const plane = tile.planes[c];
        // the ground is seen through its air, which no shadow darkens
        const haze = air ? air.colour[c] * (1 - t) : 0;
        const own = plane[i] > 0 ? Math.max(0, Math.min(1, (plane[i] - haze) / plane[i])) : 0;
        plane[i] *= 1 - DEPTH * shadow * own * (1 - light / whole[c]);
      }
    });
    return touched ? tile : lightOf(beneath, 'shadeGround');
  },
});

/** What a mirror image shows: a place of the plate and how far below the waterline it is seen. */
type MirrorAt = (
  x: number,
  y: number,
) => { readonly x: number; readonly y: number; readonly share: number } | undefined;

/** From a pixel of level water to the place of an upright plate that is seen in it; with the share of light that the water throws back. */
function mirror(standing: Standing): MirrorAt | undefined {
  const { matrix, camera, foot } = standing;
  const stood = stoodAt(standing, invert(matrix));
  if (!stood) return undefined;
  const { at, metres } = stood;
  const view = groundView(camera);
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
      x: foot[0] + across / metres,
      y: foot[1] - up / metres,
      share: fresnel(-d[1] / Math.sqrt(dot(d, d))),
    };
  };
}

/** Water in which a plate stands, with its mirror image. Inputs: what lies beneath the plate, the plate, and its silhouette blown up. */
export const reflectThing = operator<Standing>({
  kind: 'reflectThing',
  version: 1,
  gives: 'light',
  run: ([beneath, plate, field], standing, at) => {
    const mirrorAt = mirror(standing);
    if (!mirrorAt) return lightOf(beneath, 'reflectThing');
    const { matrix, camera, from, to, relight, shadow, foot, air } = standing;
    const { levels } = pictureOf(plate, 'reflectThing');
    const look = plateLook(levels);
    const ratio = lightRatio(fieldOf(field, 'reflectThing'), from, to, groundView(camera), relight);
    const waterline = transform(invert(matrix), ...foot)[1];
    const scale = Math.sqrt(matrix[0] ** 2 + matrix[3] ** 2);
    const level = Math.max(0, Math.fround(Math.log2(scale * 2 ** at.level)));
    const through = transmission(air, standing.distance ?? stoodAt(standing, invert(matrix))?.distance ?? 0);
    const [pixel, factors, sum] = [new Float64Array(4), new Float64Array(3), new Float64Array(4)];
    const tile = linear(beneath, 'reflectThing');
    let touched = false;
    eachPixel(at, (i, x, y) => {
      if (y <= waterline) return;
      const blur = RIPPLE * (y - waterline);
      sum.fill(0);
      let share = 0;
      for (const [offset, weight] of TAPS) {
        const seen = mirrorAt(x, Math.max(waterline + 0.01, y + offset * blur));
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

export const STAND_OPERATORS = [standThing, shadeGround, reflectThing] as const;
