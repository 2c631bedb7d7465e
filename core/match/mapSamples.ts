import { linearTable } from '../raster/srgb';
import { encodeLight } from './encodeLight';
import { curveAt, type MatchMap } from './matchMap';
import { type Samples } from './samples';

const STEPS = 65535;
const TABLE = linearTable(STEPS);

/** Linear light of samples. */
export function lightOf(samples: Samples): Float64Array {
  return samples.map((v) => TABLE[Math.round(STEPS * Math.min(1, Math.max(0, v)))]);
}

/** Samples through a map. @param light their linear light */
export function mapSamples(
  { matrix: m, curves }: MatchMap,
  samples: Samples,
  light = lightOf(samples),
): Samples {
  const out = new Float64Array(samples.length);
  for (let i = 0; i < samples.length; i += 3)
    for (let c = 0; c < 3; c++) {
      const t = m[3 * c] * light[i] + m[3 * c + 1] * light[i + 1] + m[3 * c + 2] * light[i + 2];
      out[i + c] = curveAt(curves[c], encodeLight(t));
    }
  return out;
}
