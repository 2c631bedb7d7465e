import { linearToSrgb, srgbToLinear } from '../raster/srgb';
import { encodeLight } from './encodeLight';
import { mapSamples } from './mapSamples';
import { type MatchMap } from './matchMap';
import { pairedDifference } from './matchScore';
import { type Samples } from './samples';
import { solvePaired } from './solveMap';

/** A frame on a grid that it shares with the others of its set. */
export interface FrameOnGrid {
  /** encoded R, G, B, 0…1 */
  readonly planes: readonly Float32Array[];
  /** [cell] whether the frame shows it */
  readonly shows: Uint8Array;
  /** exposure, EV: what it shows is so much brighter by intent; 0 where frames are to be equally bright */
  readonly stops: number;
}

/** A frame against the others where they show the same, and the change that makes it like them. Differences are means of ΔE2000. */
export interface NeighbourMatch {
  /** share of the frame that others show too, 0…1 */
  readonly shared: number;
  /** how much brighter it is than they are, EV, and how much redder and bluer against green */
  readonly stops: number;
  readonly red: number;
  readonly blue: number;
  /** as it is */
  readonly apart: number;
  /** with one gain for each channel, which is as far as the merge of a panorama evens frames out */
  readonly evened: number;
  /** with the map, at places that it was not solved on */
  readonly matched: number;
  readonly map: MatchMap;
}

/** codes between which a place says what another is to be */
const SAYS = [0.02, 0.97] as const;
/** … and between which it can still be changed: a curve that crushes darks is told by darks */
const HOLDS = [0.003, 0.985] as const;
const MOST_SAMPLES = 9000;
const LEAST_SAMPLES = 240;

/**
 * How every frame of a set differs from its neighbours, from what both show, and a change of tone and colour for each that makes it like them. Where more
 * than two show a place the middle of them counts, so that one odd frame is not what the others are made like.
 * @returns [frame] undefined where too little is shared
 */
export function matchNeighbours(
  frames: readonly (FrameOnGrid | undefined)[],
): (NeighbourMatch | undefined)[] {
  return frames.map((frame) => {
    const others = frames.filter((g): g is FrameOnGrid => g !== undefined && g !== frame);
    const shared = frame && sharedPlaces(frame, others);
    if (!shared) return undefined;
    const solvedOn = every(shared, 0);
    const heldBack = every(shared, 1);
    const map = solvePaired(solvedOn.own, solvedOn.wanted);
    const gains = [0, 1, 2].map((c) => medianStops(solvedOn, c));
    const evened = heldBack.own.map((code, i) =>
      Math.min(1, linearToSrgb(srgbToLinear(code) * 2 ** gains[i % 3])),
    );
    return {
      shared: shared.share,
      ...{ stops: -gains[1], red: gains[1] - gains[0], blue: gains[1] - gains[2] },
      apart: pairedDifference(heldBack.own, heldBack.wanted).mean,
      evened: pairedDifference(evened, heldBack.wanted).mean,
      matched: pairedDifference(mapSamples(map, heldBack.own), heldBack.wanted).mean,
      map,
    };
  });
}

interface Paired {
  readonly own: Samples;
  readonly wanted: Samples;
}

/** What a frame and others show alike: its codes, and what theirs are at its exposure. */
function sharedPlaces(
  frame: FrameOnGrid,
  others: readonly FrameOnGrid[],
): (Paired & { readonly share: number }) | undefined {
  const cells: number[] = [];
  let shown = 0;
  for (let i = 0; i < frame.shows.length; i++) {
    if (!frame.shows[i]) continue;
    shown++;
    if (inRange(frame, i, HOLDS) && others.some((g) => g.shows[i] && inRange(g, i, SAYS))) cells.push(i);
  }
  if (cells.length < LEAST_SAMPLES) return undefined;
  const step = Math.max(1, Math.ceil(cells.length / MOST_SAMPLES));
  const own: number[] = [];
  const wanted: number[] = [];
  for (let k = 0; k < cells.length; k += step) {
    const i = cells[k];
    const showing = others.filter((g) => g.shows[i] && inRange(g, i, SAYS));
    for (let c = 0; c < 3; c++) {
      own.push(frame.planes[c][i]);
      const light = showing.map((g) => srgbToLinear(g.planes[c][i]) * 2 ** (frame.stops - g.stops));
      wanted.push(Math.min(1, encodeLight(middle(light))));
    }
  }
  return {
    own: Float64Array.from(own),
    wanted: Float64Array.from(wanted),
    share: cells.length / Math.max(1, shown),
  };
}

const inRange = ({ planes }: FrameOnGrid, i: number, [least, most]: readonly [number, number]): boolean =>
  planes.every((plane) => plane[i] > least && plane[i] < most);

function middle(values: number[]): number {
  values.sort((a, b) => a - b);
  const last = values.length - 1;
  return (values[last >> 1] + values[(last + 1) >> 1]) / 2;
}

/** Every other sample. */
function every({ own, wanted }: Paired, first: 0 | 1): Paired {
  const half = (samples: Samples): Samples => samples.filter((_, i) => Math.floor(i / 3) % 2 === first);
  return { own: half(own), wanted: half(wanted) };
}

/** How much brighter one channel should be, EV. */
function medianStops({ own, wanted }: Paired, channel: number): number {
  const stops: number[] = [];
  for (let i = channel; i < own.length; i += 3)
    stops.push(Math.log2(srgbToLinear(wanted[i]) / srgbToLinear(own[i])));
  return middle(stops);
}
