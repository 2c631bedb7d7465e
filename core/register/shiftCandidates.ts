import { crossSpectrum, fourier, powerOfTwo, type Spectrum } from './fourier';
import { type Representation } from './logLuminance';
import { length2 } from '../raster/length';

/** A possible shift: reference pixel (x, y) shows what the frame shows at (x + dx, y + dy). */
export interface Shift {
  readonly dx: number;
  readonly dy: number;
}

/** Offset of a parabola's peak through three neighbours, within half a sample. */
const peakOffset = (left: number, centre: number, right: number): number => {
  const curve = left - 2 * centre + right;
  return curve < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (left - right)) / curve)) : 0;
};

/**
 * Phase correlation (Kuglin & Hines 1975): whitening to the power 0.85 with a Gaussian low-pass and a 15 % cosine-free taper.
 * @returns the `count` strongest shifts, strongest first
 */
export function phaseShifts(a: Representation, b: Representation, count: number): Shift[] {
  const width = powerOfTwo(Math.max(a.width, b.width));
  const height = powerOfTwo(Math.max(a.height, b.height));
  const n = width * height;
  const spectrum = (p: Representation): Spectrum => {
    let sum = 0;
    let used = 0;
    for (let i = 0; i < p.value.length; i++)
      if (p.valid[i] > 0) {
        sum += p.value[i];
        used++;
      }
    const mean = used > 0 ? sum / used : 0;
    const data = new Float64Array(2 * n);
    for (let y = 0; y < p.height; y++) {
      const wy = Math.min(1, Math.min(y + 0.5, p.height - y - 0.5) / (p.height * 0.15));
      for (let x = 0; x < p.width; x++) {
        const i = y * p.width + x;
        if (p.valid[i] <= 0) continue;
        const wx = Math.min(1, Math.min(x + 0.5, p.width - x - 0.5) / (p.width * 0.15));
        data[2 * (y * width + x)] = Math.max(-2.5, Math.min(2.5, (p.value[i] - mean) * wx * wy));
      }
    }
    const s = { width, height, data };
    fourier(s, false);
    return s;
  };
  const cross = crossSpectrum(spectrum(a), spectrum(b));
  const { data } = cross;
  let magnitude = 0;
  for (let i = 0; i < data.length; i += 2) magnitude += length2(data[i], data[i + 1]);
  magnitude /= n;
  for (let y = 0, i = 0; y < height; y++) {
    const fy = (y > height / 2 ? y - height : y) / height;
    for (let x = 0; x < width; x++, i += 2) {
      const fx = (x > width / 2 ? x - width : x) / width;
      const k =
        Math.exp(-(fx * fx + fy * fy) * 12) / (length2(data[i], data[i + 1]) + 1e-3 * magnitude) ** 0.85;
      data[i] *= k;
      data[i + 1] *= k;
    }
  }
  fourier(cross, true);
  const surface = new Float64Array(n);
  for (let i = 0; i < n; i++) surface[i] = data[2 * i];
  const at = (x: number, y: number): number =>
    data[2 * (((y + height) % height) * width + ((x + width) % width))];
  const shifts: Shift[] = [];
  for (let k = 0; k < count; k++) {
    let best = 0;
    for (let i = 1; i < n; i++) if (surface[i] > surface[best]) best = i;
    const x = best % width;
    const y = (best / width) | 0;
    shifts.push({
      dx: (x > width / 2 ? x - width : x) + peakOffset(at(x - 1, y), at(x, y), at(x + 1, y)),
      dy: (y > height / 2 ? y - height : y) + peakOffset(at(x, y - 1), at(x, y), at(x, y + 1)),
    });
    for (let j = -2; j <= 2; j++)
      for (let i = -2; i <= 2; i++)
        surface[((y + j + height) % height) * width + ((x + i + width) % width)] = -Infinity;
  }
  return shifts;
}

/**
 * Normalised cross-correlation over all shifts with invalid pixels masked out, by Fourier transforms (Padfield 2012). It finds
 * clipped scenes on which phase correlation fails.
 * @param leastOverlap shifts that share less than this part of the largest overlap are left out
 */
export function correlationShifts(
  a: Representation,
  b: Representation,
  count: number,
  leastOverlap = 0.35,
): Shift[] {
  const width = powerOfTwo(Math.round(Math.max(a.width, b.width) * 1.35));
  const height = powerOfTwo(Math.round(Math.max(a.height, b.height) * 1.35));
  const n = width * height;
  const mean = (p: Representation): number => {
    let s = 0;
    let c = 0;
    for (let i = 0; i < p.value.length; i++)
      if (p.valid[i] > 0) {
        s += p.value[i];
        c++;
      }
    return s / Math.max(1, c);
  };
  const spectrum = (p: Representation, of: (v: number) => number): Spectrum => {
    const data = new Float64Array(2 * n);
    for (let y = 0; y < p.height; y++)
      for (let x = 0; x < p.width; x++) {
        const i = y * p.width + x;
        if (p.valid[i] > 0) data[2 * (y * width + x)] = of(p.value[i]);
      }
    const s = { width, height, data };
    fourier(s, false);
    return s;
  };
  const correlate = (s: Spectrum, t: Spectrum): Float64Array => {
    const c = crossSpectrum(s, t);
    fourier(c, true);
    return c.data;
  };
  const ma = mean(a);
  const mb = mean(b);
  const a0 = spectrum(a, () => 1);
  const a1 = spectrum(a, (v) => v - ma);
  const a2 = spectrum(a, (v) => (v - ma) ** 2);
  const b0 = spectrum(b, () => 1);
  const b1 = spectrum(b, (v) => v - mb);
  const b2 = spectrum(b, (v) => (v - mb) ** 2);
  const shared = correlate(a0, b0);
  const sa = correlate(a1, b0);
  const sb = correlate(a0, b1);
  const saa = correlate(a2, b0);
  const sbb = correlate(a0, b2);
  const sab = correlate(a1, b1);
  let most = 0;
  for (let i = 0; i < 2 * n; i += 2) if (shared[i] > most) most = shared[i];
  const score = new Float64Array(n).fill(-1);
  for (let k = 0; k < n; k++) {
    const i = 2 * k;
    const m = shared[i];
    if (m < leastOverlap * most || m < 30) continue;
    const va = saa[i] - (sa[i] * sa[i]) / m;
    const vb = sbb[i] - (sb[i] * sb[i]) / m;
    if (va <= 1e-9 || vb <= 1e-9) continue;
    score[k] = ((sab[i] - (sa[i] * sb[i]) / m) / Math.sqrt(va * vb)) * Math.sqrt(Math.min(1, m / most + 0.3));
  }
  const at = (x: number, y: number): number => score[((y + height) % height) * width + ((x + width) % width)];
  const peaks: { v: number; x: number; y: number }[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = score[y * width + x];
      if (v <= 0) continue;
      let top = true;
      for (let j = -1; j <= 1 && top; j++)
        for (let i = -1; i <= 1; i++) if (at(x + i, y + j) > v) top = false;
      if (top) peaks.push({ v, x, y });
    }
  peaks.sort((p, q) => q.v - p.v);
  return peaks.slice(0, count).map(({ v, x, y }) => ({
    dx: (x > width / 2 ? x - width : x) + peakOffset(at(x - 1, y), v, at(x + 1, y)),
    dy: (y > height / 2 ? y - height : y) + peakOffset(at(x, y - 1), v, at(x, y + 1)),
  }));
}
