import { oklabOf } from '../../colour/oklab';
import { linearToSrgb } from '../../raster/srgb';
import { length2 } from '../../raster/length';

/** What two things may be told apart by. */
export const CHANNELS = ['tone', 'red', 'green', 'blue', 'greenRed', 'blueYellow', 'chroma', 'mix'] as const;

export type Channel = (typeof CHANNELS)[number];

/** Weights of Oklab's lightness and its two axes of colour. */
export type MixWeights = readonly [lightness: number, greenRed: number, blueYellow: number];

const DARKEST = -9;
const code = (light: number): number => 255 * Math.sign(light) * linearToSrgb(Math.abs(light));

/** The value of a channel for linear R, G, B: stops from middle grey, codes of 255, or Oklab (Ottosson 2020) times 100. */
export function channelOf(
  channel: Channel,
  weights: MixWeights,
): (r: number, g: number, b: number) => number {
  switch (channel) {
    case 'tone':
      return (r, g, b) => {
        const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
        return y > 0 ? Math.max(DARKEST, Math.log2(y / 0.18)) : DARKEST;
      };
    case 'red':
      return (r) => code(r);
    case 'green':
      return (_, g) => code(g);
    case 'blue':
      return (_, __, b) => code(b);
    case 'greenRed':
      return (r, g, b) => 100 * oklabOf(r, g, b)[1];
    case 'blueYellow':
      return (r, g, b) => 100 * oklabOf(r, g, b)[2];
    case 'chroma':
      return (r, g, b) => {
        const [, p, q] = oklabOf(r, g, b);
        return 100 * length2(p, q);
      };
    case 'mix':
      return (r, g, b) => {
        const [L, p, q] = oklabOf(r, g, b);
        return 100 * (weights[0] * L + weights[1] * p + weights[2] * q);
      };
  }
}
