import { type EncodedImage } from '../raster/encodedImage';
import { balanceBetween } from './balanceBetween';
import { type DustSpot, dustSpots } from './dust';
import { type DustShade, dustShade } from './dustShade';
import { measureStops } from './measureStops';

/** What is measured of the frames of a set against each other; lists follow the frames, entries of the reference are 0. */
export interface SetMeasures {
  readonly dust: readonly DustSpot[];
  /** what each spot of dust lets through, where that can be told */
  readonly shades: readonly DustShade[];
  /** colour against the reference, stops of red and blue over green */
  readonly balance: readonly (readonly [red: number, blue: number] | undefined)[];
  /** exposure against the reference as the pixels have it, EV */
  readonly stops: readonly (number | undefined)[];
}

/** spots that are taken out at most: more is texture */
const MOST_SHADES = 60;

/**
 * Measures a set as it was shot. Frames are compared with the neighbour in exposure, which shares most tones with them, and summed up
 * to the reference.
 * @param frames levels of each frame, full size first @param stops stated exposures, EV
 */
export function measureSet(
  frames: readonly (readonly EncodedImage[])[],
  stops: readonly number[],
  reference: number,
): SetMeasures {
  const small = frames.map(
    (levels) => levels.find((l) => Math.max(l.width, l.height) <= 800) ?? levels[levels.length - 1],
  );
  const order = frames.map((_, i) => i).sort((a, b) => stops[a] - stops[b]);
  const at = order.indexOf(reference);
  const balance: ([number, number] | undefined)[] = frames.map(() => undefined);
  const measured: (number | undefined)[] = frames.map(() => undefined);
  balance[reference] = [0, 0];
  measured[reference] = 0;
  const walk = (from: number, to: number): void => {
    const [a, b] = [order[from], order[to]];
    const colour = balanceBetween(small[a], small[b]);
    const before = balance[a];
    if (colour && before) balance[b] = [before[0] + colour[0], before[1] + colour[1]];
    const light = measureStops(small[a], small[b]);
    const sum = measured[a];
    if (light !== undefined && sum !== undefined) measured[b] = sum + light;
  };
  for (let k = at + 1; k < order.length; k++) walk(k - 1, k);
  for (let k = at - 1; k >= 0; k--) walk(k + 1, k);
  const dust = dustSpots(frames);
  const shades = dust.slice(0, MOST_SHADES).flatMap((spot) => dustShade(frames, spot) ?? []);
  return { dust, shades, balance, stops: measured };
}
