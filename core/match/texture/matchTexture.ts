import { type GrainSettings } from '../../edits/grain/grainSettings';
import { sharpenPlanes } from '../../finish/sharpen';
import { type EncodedImage } from '../../raster/encodedImage';
import { edgeSpread } from './edgeSpread';
import { lumaOfNoise, NOISE_LEVELS, type NoiseByLevel, noiseByLevel } from './noiseByLevel';

/** Grain and sharpness of a picture. */
export interface Texture {
  readonly noise?: NoiseByLevel;
  /** see {@link edgeSpread}, pixels */
  readonly spread?: number;
}

/** What gives one picture the grain and the sharpness of another. */
export interface TextureMatch {
  readonly own: Texture;
  readonly other: Texture;
  /** sigma that it is blurred by, pixels */
  readonly soften?: number;
  readonly sharpen?: { readonly radius: number; readonly amount: number };
  readonly grain?: GrainSettings;
  /** share of its own noise that is to go, 0…1 */
  readonly denoise?: number;
}

/** parts by which edges and grain may differ: less is not seen */
const SPREADS_ALIKE = 1.08;
const GRAINS_ALIKE = 1.1;
/** so much more is grain to be taken out; less may be fine texture, as feathers are */
const GRAINIER = 1.6;
/** least blur that is worth it, pixels */
const LEAST_BLUR = 0.25;
/** amounts of sharpening that are tried */
const AMOUNTS = [0.25, 0.5, 0.75, 1, 1.5, 2, 2.5] as const;

export function textureOf(image: EncodedImage): Texture {
  const [noise, spread] = [noiseByLevel(image), edgeSpread(image)];
  return { ...(noise ? { noise } : {}), ...(spread === undefined ? {} : { spread }) };
}

/** Measures grain and sharpness of both, and solves what makes them alike. @param other what it stands in, both pixel for pixel as they are seen */
export function matchTexture(image: EncodedImage, reference: EncodedImage): TextureMatch {
  const [own, other] = [textureOf(image), textureOf(reference)];
  const spread = spreadMatch(image, own.spread, other.spread);
  return { own, other, ...spread, ...grainMatch(own.noise, other.noise, spread.soften ?? 0) };
}

function spreadMatch(
  image: EncodedImage,
  own: number | undefined,
  other: number | undefined,
): Pick<TextureMatch, 'soften' | 'sharpen'> {
  if (own === undefined || other === undefined) return {};
  if (other > SPREADS_ALIKE * own) {
    const soften = Math.sqrt(other * other - own * own);
    return soften >= LEAST_BLUR ? { soften: rounded(soften) } : {};
  }
  if (own <= SPREADS_ALIKE * other) return {};
  const radius = rounded(Math.max(0.5, own));
  const reached = AMOUNTS.map((amount) => ({ amount, spread: edgeSpread(sharpened(image, radius, amount)) }));
  const best = reached.reduce((a, b) =>
    Math.abs((b.spread ?? own) - other) < Math.abs((a.spread ?? own) - other) ? b : a,
  );
  return { sharpen: { radius, amount: best.amount } };
}

function sharpened(image: EncodedImage, radius: number, amount: number): EncodedImage {
  const { width, height, data, white } = image;
  const planes = [0, 1, 2].map((c) =>
    Float32Array.from({ length: width * height }, (_, i) => data[3 * i + c] / white),
  );
  sharpenPlanes(planes, width, height, { radius, amount, edge: 0 });
  const out = Uint16Array.from(
    { length: data.length },
    (_, i) => 65535 * Math.min(1, Math.max(0, planes[i % 3][Math.floor(i / 3)])) + 0.5,
  );
  return { ...image, data: out, white: 65535 };
}

/** variance of white noise that stays after a blur, against that of grain which is `area` wide, pixels² */
const PIXEL = 1 / (4 * Math.PI);

function grainMatch(
  own: NoiseByLevel | undefined,
  other: NoiseByLevel | undefined,
  blur: number,
): Pick<TextureMatch, 'grain' | 'denoise'> {
  if (!other) return {};
  const area = PIXEL + (own?.size ?? 0) ** 2;
  const left = area / (area + blur * blur);
  const [had, has] = [filled(own?.sigmas), filled(other.sigmas)];
  if (!has) return {};
  const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / NOISE_LEVELS;
  const kept = (had ?? has.map(() => 0)).map((s) => s * Math.sqrt(left));
  if (mean(kept) > GRAINIER * mean(has)) return { denoise: rounded(1 - mean(has) / mean(kept)) };
  const missing = has.map((s, i) => Math.sqrt(Math.max(0, s * s - kept[i] * kept[i])));
  const strength = mean(missing);
  if (mean(has) <= GRAINS_ALIKE * mean(kept) || strength === 0) return {};
  return {
    grain: {
      strength: rounded((255 * strength) / lumaOfNoise(other.colour)),
      shape: missing.map((s) => rounded(s / strength)),
      size: rounded(other.size),
      colour: rounded(other.colour),
    },
  };
}

/** Levels that nothing tells of are as their neighbours. */
function filled(sigmas: readonly (number | undefined)[] | undefined): number[] | undefined {
  const known = (sigmas ?? []).flatMap((sigma, at) => (sigma === undefined ? [] : [{ sigma, at }]));
  if (known.length === 0) return undefined;
  return Array.from({ length: NOISE_LEVELS }, (_, i) => {
    const below = known.findLast((k) => k.at <= i) ?? known[0];
    const above = known.find((k) => k.at >= i) ?? known[known.length - 1];
    const t = above.at === below.at ? 0 : Math.min(1, Math.max(0, (i - below.at) / (above.at - below.at)));
    return below.sigma + t * (above.sigma - below.sigma);
  });
}

const rounded = (v: number): number => Math.round(1000 * v) / 1000;
