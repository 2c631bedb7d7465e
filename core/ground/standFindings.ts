import { judge, type Finding } from '../proof/finding';
import { type Matrix3 } from '../raster/matrix3';
import { type LightDirection, type LightRig } from './light';
import { turnBetween } from './shadowTip';
import { mirrorOf, type Standing, type Stood } from './standing';

/** A plate as the findings of the ground see it. */
export interface StandingPlate {
  readonly name: string;
  /** 0…1 */
  readonly opacity: number;
  /** undefined where it stands nowhere yet */
  readonly standing?: Standing;
  /** undefined where its foot lies above the horizon */
  readonly stood?: Stood;
  /** where its foot is seen, pixels of the picture */
  readonly foot?: readonly [number, number];
  /** it lies above the horizon with all of it, and stands nowhere */
  readonly inSky?: boolean;
}

/** What is known of the picture's light. */
export interface SceneLight {
  readonly light: LightRig;
  /** nothing is: the light of a plate stands for it */
  readonly unlit: boolean;
}

const AROUND = 80;

/** share of a shadow, or of another light, below which it counts as left out */
const LEFT_OUT = 0.15;

/** Where a plate's own sun comes from in the picture: on its other side where it lies mirrored. */
export const asSeen = <T extends LightDirection>(own: T, matrix: Matrix3): T => ({
  ...own,
  azimuth: mirrorOf(matrix) * own.azimuth,
});

/** Findings of one plate, each with its place. */
export function standFindings(
  { name, opacity, standing, stood, foot, inSky = false }: StandingPlate,
  scene: SceneLight | undefined,
): Finding[] {
  const where = foot
    ? { where: { x: foot[0] - AROUND, y: foot[1] - AROUND, width: 2 * AROUND, height: 2 * AROUND } }
    : {};
  const seen = judge('ground.opacity', 100 * opacity, {
    ...where,
    ...(opacity < 0.95
      ? {
          why: `${name} is ${Math.round(100 * opacity)} % opaque: what lies behind it shines through. Give it all of its opacity; haze is what makes a thing paler with its distance.`,
        }
      : {}),
  });
  if (!standing && inSky) return [judge('ground.foot', 0), seen];
  if (!standing)
    return [
      judge('ground.foot', 1, {
        ...where,
        why: `${name} stands nowhere yet: say “Make it belong”, or pull its foot to the ground.`,
      }),
      seen,
    ];
  if (!stood)
    return [
      judge('ground.foot', 1, {
        ...where,
        why: `The foot of ${name} lies above the horizon, where there is no ground. Pull it down, or the horizon up.`,
      }),
      seen,
    ];
  const own = standing.from.sun;
  const sun = scene && !scene.unlit ? scene.light.sun : undefined;
  // what of it the picture's light has not taken the place of
  const turn = own && sun ? turnBetween(asSeen(own, standing.matrix), sun) * (1 - standing.relight) : 0;
  const side = turn < 0 ? 'left' : 'right';
  return [
    judge('ground.foot', 0, where),
    seen,
    ...(sun && own
      ? [
          judge('ground.light', Math.abs(turn), {
            ...where,
            ...(Math.abs(turn) >= 20
              ? {
                  why: `${name} is lit from ${Math.round(Math.abs(turn))}° to the ${side} of the picture’s light, seen from above. Take more of the picture’s light, or mirror it.`,
                }
              : {}),
          }),
        ]
      : []),
    ...(sun
      ? [
          judge('ground.shadow', standing.shadow < LEFT_OUT ? 1 : 0, {
            ...where,
            ...(standing.shadow < LEFT_OUT
              ? {
                  why: standing.water
                    ? `${name} has no mirror image in the water. Give it one.`
                    : `${name} casts no shadow in the sun. Give it one.`,
                }
              : {}),
          }),
        ]
      : []),
  ];
}
