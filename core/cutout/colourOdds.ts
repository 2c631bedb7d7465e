import { type ColourMixture, type ColourSamples, fitMixture, mixtureDensity } from './colourMixture';
import { type LabGrid } from './linkCost';

/** Mixtures of the colours of “this” and of “not”. */
export interface ColourModels {
  readonly inside: ColourMixture;
  readonly outside: ColourMixture;
  /** colours of the whole picture, most of which is not the thing */
  readonly anywhere: ColourMixture;
}

/** what every colour has on either side: one that no dab has shown stays undecided, and is settled by its neighbours */
const UNSEEN = 1e-7;
/** more than this no colour says */
const MOST_ODDS = 8;
const MOST_SAMPLES = 2500;
const PICTURE_COMPONENTS = 5;
/** how much the picture's own colours count among those of “not” */
const ANYWHERE = 0.01;
/** variance that a component has at least, Lab² */
const FLOOR = 4;
/** of a second round half the samples are those of the dabs, so that they are never outvoted */
const SHARE_OF_DABS = 0.5;
const MOST_REPEATS = 40;

/** Colours of the pixels that have a label, thinned out evenly. @param label [pixel] 1, 0, or −1 */
export function labelSamples({ data }: LabGrid, label: ArrayLike<number>, wanted: number): ColourSamples {
  const places: number[] = [];
  for (let i = 0; i < label.length; i++) if (label[i] === wanted) places.push(i);
  const step = Math.max(1, Math.ceil(places.length / MOST_SAMPLES));
  const kept = places.filter((_, k) => k % step === 0);
  return {
    data: Float64Array.from(
      { length: 3 * kept.length },
      (_, j) => data[3 * kept[Math.floor(j / 3)] + (j % 3)],
    ),
    count: kept.length,
  };
}

/** Samples of a whole side, with those of the dabs repeated beside them. */
export function withDabs(side: ColourSamples, dabs: ColourSamples): ColourSamples {
  if (side.count === 0 || dabs.count === 0) return side.count === 0 ? dabs : side;
  const repeats = Math.max(1, Math.min(MOST_REPEATS, Math.round((SHARE_OF_DABS * side.count) / dabs.count)));
  const data = new Float64Array(side.data.length + repeats * dabs.data.length);
  data.set(side.data);
  for (let k = 0; k < repeats; k++) data.set(dabs.data, side.data.length + k * dabs.data.length);
  return { data, count: side.count + repeats * dabs.count };
}

/** Learns the colours of both sides. @param components of each at most */
export function learnColours(
  inside: ColourSamples,
  outside: ColourSamples,
  components: number,
): Omit<ColourModels, 'anywhere'> {
  return {
    inside: fitMixture(inside, components, FLOOR),
    outside: fitMixture(outside, components, FLOOR),
  };
}

/** Learns the colours of the whole picture. */
export function pictureColours(lab: LabGrid): ColourMixture {
  const whole = new Int8Array(lab.width * lab.height);
  return fitMixture(labelSamples(lab, whole, 0), PICTURE_COMPONENTS, FLOOR);
}

/** Logarithmic odds that a colour is “this”, −8…8. */
export function colourOdds(
  { inside, outside, anywhere }: ColourModels,
  data: Float32Array,
  o: number,
): number {
  const odds = Math.log(
    (mixtureDensity(inside, data, o) + UNSEEN) /
      (mixtureDensity(outside, data, o) + ANYWHERE * mixtureDensity(anywhere, data, o) + UNSEEN),
  );
  return Math.max(-MOST_ODDS, Math.min(MOST_ODDS, odds));
}
