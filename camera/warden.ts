import { type Placing, type Plate } from './placePlate';
import { type PlateName } from './plates';
import { type LightMix } from './scenes';

/** metres a second */
const WALK = 0.9;
/** seconds from one frame to the next */
export const APART = 0.7;
/** The warden on the landing stage before the mill: scene pixels of the first frame's feet, metres away, pixels a metre there. */
const STAGE = { x: 1000, y: 727, distance: 20.5, perMetre: 83.6 } as const;
/** where in a stride he is in each frame; at the end of the stage he begins anew */
const STRIDE = ['walker-1', 'walker-2', 'walker-3', 'walker-4', 'walker-1'] as const satisfies PlateName[];

/** The warden in one frame of a set: his pose and his place. */
export interface Warden {
  readonly pose: (typeof STRIDE)[number];
  readonly placing: Placing;
}

/** Where the warden is in a frame, and how far he walks while its shutter is open. @param seconds of exposure */
export function wardenAt(frame: number, seconds: number): Warden {
  const step = frame % STRIDE.length;
  const { perMetre, ...stage } = STAGE;
  return {
    pose: STRIDE[step],
    placing: { ...stage, x: stage.x + perMetre * WALK * APART * step, moves: WALK * seconds },
  };
}

/** The light that the warden's cut-outs were rendered under, as the mill's lights are turned. */
const OWN_LIGHT = 0.19;
/** blue against red of things lit by the sky alone; the lantern lights them with less */
const SKY_TINT = 0.75;
/** radiance from which a pixel is the lantern itself */
const LANTERN = 0.3;

/** The warden at another hour: what the sky lights on him is as bright as the mill's sky and sun are turned, what the lantern lights stays. */
export function lightWarden(plate: Plate, mix: LightMix): Plate {
  const gain = ((mix.sky ?? 0) + (mix.sun ?? 0)) / OWN_LIGHT;
  const [red, green, blue] = plate.light.planes;
  const planes = plate.light.planes.map((plane) => plane.slice());
  for (let i = 0; i < red.length; i++) {
    if (plate.alpha[i] <= 0 || Math.max(red[i], green[i]) > LANTERN) continue;
    const bySky = red[i] > 0 ? Math.min(1, blue[i] / (SKY_TINT * red[i])) : 1;
    const k = 1 + (gain - 1) * bySky;
    for (const plane of planes) plane[i] *= k;
  }
  return { ...plate, light: { ...plate.light, planes } };
}
