import { asCodes, type EncodedImage } from '../raster/encodedImage';

const COLUMNS = 9;
const ROWS = 6;
const LONG_EDGE = 1700;
/** the sharpest frame's energy over the median frame's that tells focus from a hand's shake */
const CLEARLY = 1.8;
/** energy per pixel that noise does not reach, encoded squared */
const LEAST = 1e-5;

/** For each frame the share of the picture's structured tiles that it alone shows clearly sharpest, 0…1. */
export function sharpestTiles(frames: readonly (readonly EncodedImage[])[]): number[] {
  const energies = frames.map((levels) =>
    tileEnergy(levels.find((l) => Math.max(l.width, l.height) <= LONG_EDGE) ?? levels[levels.length - 1]),
  );
  const wins = frames.map(() => 0);
  let told = 0;
  for (let t = 0; t < COLUMNS * ROWS; t++) {
    const own = energies.map((e) => e[t]);
    const best = own.indexOf(Math.max(...own));
    if (own[best] < LEAST) continue;
    told++;
    const others = own.filter((_, f) => f !== best).sort((a, b) => a - b);
    // two frames at hand: the worse one; more: the middle one
    if (own[best] > CLEARLY * others[others.length >> 1] || own[best] > 3 * others[0]) wins[best]++;
  }
  return wins.map((w) => (told > 0 ? w / told : 0));
}

function tileEnergy(source: EncodedImage): Float64Array {
  const { width: w, height: h, data, white } = asCodes(source);
  const sum = new Float64Array(COLUMNS * ROWS);
  const count = new Float64Array(COLUMNS * ROWS);
  for (let y = 1; y + 1 < h; y++) {
    const row = Math.floor((y * ROWS) / h) * COLUMNS;
    for (let x = 1; x + 1 < w; x++) {
      const i = (y * w + x) * 3 + 1;
      const lap = (4 * data[i] - data[i - 3] - data[i + 3] - data[i - 3 * w] - data[i + 3 * w]) / white;
      const t = row + Math.floor((x * COLUMNS) / w);
      sum[t] += lap * lap;
      count[t]++;
    }
  }
  return sum.map((s, t) => s / Math.max(1, count[t]));
}
