import { type Direction, type Source } from './light';
import { type PlateLook } from './plateLook';
import { mirrorOf, type Standing, type Stood } from './standing';

/** A light that is lower than this casts no shadow that can be placed: any tilt of the ground would rule it. Sine of 3°. */
const LOWEST = 0.052;
/** full width of the sun over the way from the thing, a little blurred by grass and air */
const SOFT = 0.012;

/** Share of a light that a thing keeps from a place of the ground, 0…1. */
export type ShadowAt = (ground: Direction) => number;

/**
 * The shadow of an upright card through the foot that faces the light, on flat ground: from a place of the ground to the light, through the card,
 * where the plate's opacity is looked up (Blinn, *Me and My (Fake) Shadow*, 1988, turned round). The further from the card, the softer. A
 * lamp's rays spread, a sun's do not.
 */
export function castShadow(
  look: PlateLook,
  { foot, matrix }: Standing,
  { at, metres }: Stood,
  { towards, lamp }: Source,
): ShadowAt | undefined {
  const level = Math.sqrt(towards[0] ** 2 + towards[2] ** 2);
  if (towards[1] < LOWEST || level < 1e-3) return undefined;
  // the way to the light along the ground, and the card's own right
  const [ax, az] = [towards[0] / level, towards[2] / level];
  const flip = mirrorOf(matrix) * (az < 0 ? -1 : 1);
  const [sx, sz] = [flip * az, -flip * ax];
  // what one pixel of the picture takes together of the plate
  const whole = Math.max(0, Math.fround(Math.log2(Math.sqrt(matrix[0] ** 2 + matrix[3] ** 2))));
  const out = new Float64Array(4);
  return (ground) => {
    const [x, z] = [ground[0] - at[0], ground[2] - at[2]];
    const [dx, dy, dz] = lamp ? [lamp.at[0] - x, lamp.at[1], lamp.at[2] - z] : towards;
    // how far along the ray the card is met; the whole ray of a lamp is 1
    const t = -(x * ax + z * az) / (dx * ax + dz * az);
    if (!(t >= 0) || (lamp && t >= 1)) return 0;
    const across = (x + t * dx) * sx + (z + t * dz) * sz;
    const up = t * dy;
    const way = lamp ? t * Math.sqrt(dx * dx + dy * dy + dz * dz) : t;
    const sigma = (0.5 * SOFT * way) / metres;
    look(
      foot[0] + across / metres,
      foot[1] - up / metres,
      Math.max(whole, Math.fround(Math.log2(Math.max(1, 2 * sigma)))),
      out,
    );
    return out[3];
  };
}

/**
 * Share of the sky's light that an upright body takes from the ground beside it: the form factor of a standing strip.
 * @param halfWidth metres, of where it stands
 * @param tall metres
 */
export function contactShade({ at }: Stood, halfWidth: number, tall: number): ShadowAt {
  return (ground) => {
    const q = Math.max(1e-4, Math.sqrt((ground[0] - at[0]) ** 2 + (ground[2] - at[2]) ** 2) - halfWidth);
    if (q > 3 * tall) return 0;
    return (
      (Math.fround(Math.asin(halfWidth / (halfWidth + q))) / Math.PI) *
      (1 - 1 / Math.sqrt(1 + (tall / q) ** 2))
    );
  };
}
