import { type CutGraph, minimumCut } from '../cut/maxFlow';
import {
  colourOdds,
  type ColourModels,
  labelSamples,
  learnColours,
  pictureColours,
  withDabs,
} from './colourOdds';
import { type Seeds } from './dab';
import { contrastScale, type LabGrid, linkCost, LINKS } from './linkCost';

/** What is “this” on a reduced grid. */
export interface CoarseCut {
  /** [cell] 1 for “this” */
  readonly label: Uint8Array;
  readonly models: ColourModels;
  readonly scale: number;
}

export interface CoarseOptions {
  /** how often the colours are learned: from the dabs, then from what was cut */
  readonly rounds: number;
  /** weight of the links against the colours */
  readonly smoothness: number;
  /** [cell] what speaks for “this” besides colours, as logarithmic odds */
  readonly bias?: Float32Array;
}

/** capacities are whole multiples of this part: sums are exact, so that a cut does not depend on their order */
const PARTS = 1024;
/** A place that a dab has named is never given up. */
export const CERTAIN = 1e4 * PARTS;
const FIRST_COMPONENTS = 4;
const COMPONENTS = 5;

/** Capacity in whole parts. */
export const capacity = (c: number): number => Math.round(PARTS * c);

/**
 * Cuts “this” from “not” on a reduced picture by the least cut over colour evidence and links between alike neighbours (Boykov & Jolly 2001;
 * Rother, Kolmogorov & Blake 2004). Parts that touch no dab of “this” are dropped.
 */
export function coarseCut(lab: LabGrid, seeds: Seeds, options: CoarseOptions): CoarseCut {
  const { rounds, smoothness, bias } = options;
  const { width, height, data } = lab;
  const scale = contrastScale(lab);
  const links = gridLinks(lab, scale, smoothness);
  const dabs = { inside: labelSamples(lab, seeds, 1), outside: labelSamples(lab, seeds, 0) };
  const anywhere = pictureColours(lab);
  let models = { ...learnColours(dabs.inside, dabs.outside, FIRST_COMPONENTS), anywhere };
  for (let round = 1; ; round++) {
    // “this” is the sink: what nothing decides is “not”
    const terminal = Float32Array.from(seeds, (seed, i) =>
      seed === 1
        ? -CERTAIN
        : seed === 0
          ? CERTAIN
          : -capacity(colourOdds(models, data, 3 * i) + (bias?.[i] ?? 0)),
    );
    const cut = minimumCut({ nodes: width * height, terminal, ...links });
    const label = attached(cut, width, height, seeds);
    if (round >= rounds) return { label, models, scale };
    models = {
      ...learnColours(
        withDabs(labelSamples(lab, label, 1), dabs.inside),
        withDabs(labelSamples(lab, label, 0), dabs.outside),
        COMPONENTS,
      ),
      anywhere,
    };
  }
}

/** Links of a whole grid. */
function gridLinks(lab: LabGrid, scale: number, smoothness: number): Omit<CutGraph, 'nodes' | 'terminal'> {
  const { width, height } = lab;
  const most = LINKS.length * width * height;
  const [from, to, cost] = [new Int32Array(most), new Int32Array(most), new Float32Array(most)];
  let n = 0;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      for (const [dx, dy, weight] of LINKS) {
        if (x + dx < 0 || x + dx >= width || y + dy >= height) continue;
        const j = i + dy * width + dx;
        from[n] = i;
        to[n] = j;
        cost[n++] = capacity(smoothness * linkCost(lab, i, j, weight, scale));
      }
  return { from: from.subarray(0, n), to: to.subarray(0, n), capacity: cost.subarray(0, n) };
}

/** “This” without the parts that touch no dab of it, by neighbours on eight sides. */
function attached(label: Uint8Array, width: number, height: number, seeds: Seeds): Uint8Array {
  const out = new Uint8Array(label.length);
  const stack: number[] = [];
  const reach = (i: number): void => {
    if (!label[i] || out[i]) return;
    out[i] = 1;
    stack.push(i);
  };
  for (let i = 0; i < label.length; i++) if (seeds[i] === 1) reach(i);
  for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
    const [x, y] = [i % width, Math.floor(i / width)];
    for (let Y = Math.max(0, y - 1); Y <= Math.min(height - 1, y + 1); Y++)
      for (let X = Math.max(0, x - 1); X <= Math.min(width - 1, x + 1); X++) reach(Y * width + X);
  }
  return out;
}
