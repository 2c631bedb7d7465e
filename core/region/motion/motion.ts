import { operator } from '../../graph/operator';
import { coveringAt, cutPlane, resampled } from '../../graph/resample';
import { type At } from '../../graph/tile';
import { lightOf } from '../../graph/wanted';
import { boxMean } from '../../raster/boxMean';
import { between, strict } from '../../recipe/schemaParts';
import { detailLevel } from '../detailLevel';
import { type PartKind } from '../partKind';
import { smoothRange, type SoftRange } from '../smoothRange';

interface Moved extends SoftRange {
  readonly longEdge: number;
  /** exposure of each frame against the first, EV */
  readonly stops: readonly number[];
}

/** half the side of the window over which light is averaged before it is compared, pixels: texture that lies a little off is no motion */
const WINDOW = 3;
const MARGIN = WINDOW + 1;
/** linear light of a frame as it was shot below which there is noise alone, and beyond which cameras press lights together before they burn out */
const [DARK, BURNT] = [0.003, 0.6];
/** parts of a window that must be neither, in both frames */
const LEAST_SHARE = 0.4;

const toldAt = (longEdge: number, at: At): At => ({
  ...coveringAt(at, detailLevel(longEdge), MARGIN),
  kernel: 'bilinear',
});

/** By how much frames differ from the first at each place, stops: the largest difference of their mean light in a window, where both show it. Inputs: their light. */
const motionRange = operator<Moved>({
  kind: 'motionRange',
  version: 1,
  gives: 'mask',
  works: 'linear',
  needs: ({ longEdge }, at) => toldAt(longEdge, at),
  run: (inputs, settings, at) => {
    const from = toldAt(settings.longEdge, at);
    const { width, height } = from.area;
    const frames = inputs.map((input) => {
      const { planes, alpha } = lightOf(input, 'a range of motion');
      return { light: luminance(planes), alpha };
    });
    const [first, ...others] = frames;
    const most = new Float32Array(width * height);
    others.forEach((other, k) => {
      const gain = 2 ** -settings.stops[k + 1];
      const both = first.light.map((v, i) => {
        const isTold = [v, other.light[i]].every((light) => light > DARK && light < BURNT);
        return isTold && (first.alpha?.[i] ?? 1) > 0.5 && (other.alpha?.[i] ?? 1) > 0.5 ? 1 : 0;
      });
      const mean = (p: Float32Array): Float32Array => boxMean(p, width, height, WINDOW);
      const share = mean(both);
      const own = mean(first.light.map((v, i) => both[i] * v));
      const seen = mean(other.light.map((v, i) => both[i] * v * gain));
      for (let i = 0; i < most.length; i++)
        if (share[i] > LEAST_SHARE) most[i] = Math.max(most[i], Math.abs(Math.log2(seen[i] / own[i])));
    });
    const shares = most.map((v) => smoothRange(v, settings));
    const plane =
      from.level === at.level ? cutPlane(shares, from.area, at.area) : resampled(shares, from, at);
    return { is: 'mask', plane };
  },
});

/** Relative luminance (IEC 61966-2-1). */
const luminance = ([R, G, B]: readonly Float32Array[]): Float32Array =>
  R.map((r, i) => Math.max(0, 0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i]));

/** What differs between the frames of a set once they lie on each other: what moved, or was lit otherwise; stops. */
export const motion: PartKind<SoftRange> = {
  kind: 'motion',
  schema: strict({ from: between(0, 12), to: between(0, 12), soft: between(0, 4) }),
  plain: { from: 0.5, to: 12, soft: 0.3 },
  says: ({ from }) => `frames differ by ${Number(from.toFixed(1))} stops`,
  operators: [motionRange],
  compile: (graph, range, { frames, longEdge }) => {
    const some = frames?.() ?? [];
    if (some.length < 2) return undefined;
    return graph.add(
      'motionRange',
      { ...range, longEdge, stops: some.map((f) => f.stops - some[0].stops) },
      some.map((f) => f.light),
    );
  },
};
