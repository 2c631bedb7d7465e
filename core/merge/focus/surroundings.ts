import { type Kernels, kernels, planeBytes } from '../../kernels/kernels';
import { plainGuidedBy } from '../../mask/guidedFilter';

/** variance of the guide under which the map is kept even */
const EVEN = 4e-4;
/** a place takes the answer of its surroundings up to so many times as surely as they know */
const TRUST = 2.5;
const UNKNOWN = 1e-9;

/** What is asked: each frame's share of a place, by how surely it speaks, along the edges of a picture. */
export interface Asked {
  readonly width: number;
  readonly height: number;
  readonly guide: Float32Array;
  readonly sure: Float32Array;
  /** [frame] share times `sure` */
  readonly weighted: readonly Float32Array[];
}

/** [frame] the answers, and what is left open, 0…1. */
export interface Answers {
  readonly mixed: readonly Float32Array[];
  readonly left: Float32Array;
}

/**
 * Asks ever wider surroundings (cost-volume filtering: Rhemann et al. 2011, with the guided filter of He, Sun & Tang 2010): each answers as
 * much of a place as it knows of it.
 * @param reaches cells, near to far @param all whether the last one answers whatever is left
 */
export function askSurroundings(asked: Asked, reaches: readonly number[], all: boolean): Answers {
  const k = kernels();
  return k ? askKernels(k, asked, reaches, all) : plainSurroundings(asked, reaches, all);
}

/** The plain form of {@link askSurroundings}, which the kernels are held against. */
export function plainSurroundings(
  { width, height, guide, sure, weighted }: Asked,
  reaches: readonly number[],
  all: boolean,
): Answers {
  const mixed = weighted.map(() => new Float32Array(guide.length));
  const left = new Float32Array(guide.length).fill(1);
  reaches.forEach((reach, r) => {
    const filter = plainGuidedBy(guide, width, height, reach, EVEN);
    const [known, ...answers] = [sure, ...weighted].map(filter);
    const last = all && r === reaches.length - 1;
    for (let i = 0; i < left.length; i++) {
      const taken = left[i] * (last ? 1 : Math.min(1, Math.max(0, known[i]) * TRUST));
      if (taken <= 0 || known[i] <= UNKNOWN) continue;
      for (let f = 0; f < mixed.length; f++) mixed[f][i] += (taken * Math.max(0, answers[f][i])) / known[i];
      left[i] -= taken;
    }
  });
  return { mixed, left };
}

function askKernels(
  k: Kernels,
  { width, height, guide, sure, weighted }: Asked,
  reaches: readonly number[],
  all: boolean,
): Answers {
  const n = guide.length;
  return k.borrow(() => {
    const { mixed, left } = askInto(
      k,
      {
        width,
        height,
        guide: k.upload(guide),
        sure: k.upload(sure),
        weighted: weighted.map((p) => k.upload(p)),
      },
      reaches,
      all,
    );
    const copy = (at: number): Float32Array => k.floats(at, n).slice();
    return { mixed: mixed.map(copy), left: copy(left) };
  });
}

/** {@link askSurroundings} within the kernels' memory: planes by their addresses. To be called within a borrow. */
export function askInto(
  k: Kernels,
  {
    width,
    height,
    guide,
    sure,
    weighted,
  }: { width: number; height: number; guide: number; sure: number; weighted: readonly number[] },
  reaches: readonly number[],
  all: boolean,
): { mixed: readonly number[]; left: number } {
  const n = width * height;
  const plane = planeBytes(n);
  const filled = (value: number): number => {
    const at = k.take(plane);
    k.floats(at, n).fill(value);
    return at;
  };
  const mixed = weighted.map(() => filled(0));
  const left = filled(1);
  k.borrow(() => {
    const answers = weighted.map(() => k.take(plane));
    const [mean, square, known] = [k.take(plane), k.take(plane), k.take(plane)];
    const scratch = k.take(4 * plane);
    const column = k.take(8 * (width + 4));
    const lists = [mixed, answers].map(k.addresses);
    reaches.forEach((reach, r) => {
      k.guideMeans(guide, width, height, reach, mean, square, scratch, scratch + plane, column);
      const filter = (input: number, out: number): void =>
        k.guidedUnder(
          ...[input, guide, mean, square, width, height, reach, EVEN],
          ...[out, scratch, plane, column],
        );
      filter(sure, known);
      weighted.forEach((share, f) => filter(share, answers[f]));
      const trust = all && r === reaches.length - 1 ? Infinity : TRUST;
      k.takeAnswers(...[lists[0], left, known, lists[1], weighted.length, n, trust]);
    });
  });
  return { mixed, left };
}
