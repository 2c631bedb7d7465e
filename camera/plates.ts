import { type EncodedImage } from '@/core/raster/encodedImage';
import { emptyRaster, type Raster, type Rectangle } from '@/core/raster/raster';
import { developSignal } from './developSignal';
import { type Plate } from './placePlate';

/** How a rendered plate is to be understood. */
interface PlateFacts {
  readonly perMetre: number;
  /** the point that stands on the ground, pixels */
  readonly foot: readonly [x: number, y: number];
}

const WALKER: PlateFacts = { perMetre: 300, foot: [189, 587] };

/** Cut-outs of the scene, taken under lights of their own. */
export const PLATES = {
  // the warden in the mill's dusk: two ways to hold the lantern, four places in a stride
  'walker-a': WALKER,
  'walker-b': WALKER,
  'walker-1': WALKER,
  'walker-2': WALKER,
  'walker-3': WALKER,
  'walker-4': WALKER,
  // under other light: noon, overcast, an afternoon, a night
  'walker-noon': { perMetre: 440, foot: [277, 860] },
  heron: { perMetre: 1000, foot: [410, 1038] },
  boat: { perMetre: 345, foot: [630, 560] },
  moon: { perMetre: 1, foot: [320, 320] },
  cloud: { perMetre: 1, foot: [600, 560] },
} as const satisfies Record<string, PlateFacts>;

export type PlateName = keyof typeof PLATES;

/** A plate from its render: R, G and B multiplied by A. */
export function plateOf(render: Raster, { perMetre, foot }: PlateFacts): Plate {
  const [r, g, b, alpha] = render.planes;
  return { light: { ...render, planes: [r, g, b] }, alpha, perMetre, foot };
}

/** A plate as a cut-out file: cropped to what is seen, developed by a gain, with straight opacity. */
export function developPlate(
  { light, alpha }: Plate,
  gain: number,
): { image: EncodedImage; alpha: Uint8Array } {
  const box = seenBox(alpha, light.width);
  const straight = emptyRaster(box.width, box.height);
  const opacity = new Uint8Array(box.width * box.height);
  for (let y = 0, o = 0; y < box.height; y++)
    for (let x = 0; x < box.width; x++, o++) {
      const i = (y + box.y) * light.width + x + box.x;
      const a = Math.min(1, alpha[i]);
      opacity[o] = Math.round(255 * a);
      if (a > 0) straight.planes.forEach((plane, c) => (plane[o] = (gain * light.planes[c][i]) / a));
    }
  return { image: developSignal(straight), alpha: opacity };
}

/** The smallest rectangle around everything that is not nearly clear, with a pixel to spare. */
function seenBox(alpha: Float32Array, width: number): Rectangle {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -1, -1];
  alpha.forEach((a, i) => {
    if (a < 0.004) return;
    const [x, y] = [i % width, Math.floor(i / width)];
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y);
  });
  const [left, top] = [Math.max(0, x0 - 1), Math.max(0, y0 - 1)];
  const height = alpha.length / width;
  return {
    x: left,
    y: top,
    width: Math.min(width, x1 + 2) - left,
    height: Math.min(height, y1 + 2) - top,
  };
}
