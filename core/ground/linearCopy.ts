import { inLight } from '../graph/light';
import { type LightTile, type Value } from '../graph/tile';
import { lightOf } from '../graph/wanted';

/** Light in linear values that may be written to. @param by the step that wants it */
export function linearCopy(value: Value | undefined, by: string): LightTile {
  const { planes, alpha } = inLight(lightOf(value, by), false);
  return { is: 'light', encoded: false, planes: planes.map((p) => p.slice()), ...(alpha ? { alpha } : {}) };
}
