import { membrane } from './membrane';

/** linear light added before ratios are taken: below it, noise is all there is */
const FLOOR = 0.002;

/**
 * By how much the light about a gap differs from what is laid over it, as the logarithm of their ratio, carried on into the gap by a
 * {@link membrane}: what is pasted keeps its detail and takes the light of its surroundings on (gradient-domain pasting: Pérez, Gangnet & Blake
 * 2003, in ratios of linear light).
 * @param light a channel of the picture, linear
 * @param laid the same of what is laid over it; even light when absent
 * @param known [pixel] not 0 where both are there, and nothing is to be replaced
 * @param about pixels about a place over which light is averaged before it is compared: two frames never lie on each other to the last pixel
 */
export function pasteGain(
  light: Float32Array,
  laid: Float32Array | undefined,
  known: Uint8Array,
  width: number,
  height: number,
  about: number,
): Float32Array {
  // with nothing about it there is no border to go on from: even light as bright as it is, or what is laid over it as it is
  if (!known.includes(1)) {
    const mean = light.reduce((sum, v) => sum + Math.max(0, v), 0) / light.length;
    return new Float32Array(light.length).fill(laid ? 0 : Math.log(mean + FLOOR));
  }
  const count = sums(Float32Array.from(known), width, height, about);
  const [own, other] = [light, laid].map((p) => p && sums(onlyKnown(p, known), width, height, about));
  // as much lighter as it is on the whole: the floor is then the same for both
  const scale = laid ? (total(light, known) + FLOOR) / (total(laid, known) + FLOOR) : 1;
  const gain = count.map((n, i) => {
    if (!known[i] || !own) return 0;
    const beside = other ? scale * other[i] + FLOOR * n : n;
    return Math.log((own[i] + FLOOR * n) / beside) + Math.log(scale);
  });
  return membrane(gain, known, width, height);
}

const total = (plane: Float32Array, known: Uint8Array): number =>
  plane.reduce((sum, v, i) => (known[i] ? sum + Math.max(0, v) : sum), 0);

/** What is laid over a place, in its light. @param light linear; even light when absent @param gain from {@link pasteGain} */
export const pasted = (light: number | undefined, gain: number): number =>
  light === undefined ? Math.exp(gain) - FLOOR : Math.max(0, light) * Math.exp(gain);

const onlyKnown = (plane: Float32Array, known: Uint8Array): Float32Array =>
  plane.map((v, i) => (known[i] ? Math.max(0, v) : 0));

/** Sums over a square about each pixel. */
function sums(plane: Float32Array, width: number, height: number, about: number): Float32Array {
  const along = new Float32Array(plane.length);
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let u = Math.max(0, x - about); u <= Math.min(width - 1, x + about); u++)
        along[y * width + x] += plane[y * width + u];
  for (let y = 0; y < height; y++)
    for (let v = Math.max(0, y - about); v <= Math.min(height - 1, y + about); v++)
      for (let x = 0; x < width; x++) out[y * width + x] += along[v * width + x];
  return out;
}
