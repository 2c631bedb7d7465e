import { type Placing } from './placePlate';
import { type PlateName } from './plates';

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
