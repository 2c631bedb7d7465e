import { operator } from '../../graph/operator';
import { lightOf } from '../../graph/wanted';
import { NOISE_LEVELS } from '../../match/texture/noiseByLevel';
import { between, numbers, share, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { grainPlane } from './grainPlane';
import { type GrainSettings } from './grainSettings';

/** most in darks, less in lights, as developed frames have it (common practice) */
const USUAL_SHAPE = [1.2, 1.25, 1.15, 1.05, 0.95, 0.9, 0.8, 0.7] as const;

const addGrain = operator<GrainSettings>({
  kind: 'addGrain',
  version: 1,
  gives: 'light',
  works: 'encoded',
  run: ([input], { strength, shape, size, colour }, { level, area }) => {
    const tile = lightOf(input, 'grain');
    const noise = (seed: number): Float32Array => grainPlane(area, level, size, seed);
    const common = noise(0);
    const [R, G, B] = tile.planes;
    const n = common.length;
    const sigma = new Float32Array(n);
    for (let i = 0; i < n; i++) {
      const luma = 0.2126 * R[i] + 0.7152 * G[i] + 0.0722 * B[i];
      const at = Math.min(NOISE_LEVELS - 1, Math.max(0, luma * NOISE_LEVELS - 0.5));
      const k = Math.min(NOISE_LEVELS - 2, Math.floor(at));
      sigma[i] = (strength / 255) * (shape[k] + (at - k) * (shape[k + 1] - shape[k]));
    }
    const [same, apart] = [Math.sqrt(1 - colour), Math.sqrt(colour)];
    const planes = tile.planes.map((plane, c) => {
      const own = colour > 0 ? noise(c + 1) : common;
      const out = new Float32Array(n);
      for (let i = 0; i < n; i++) out[i] = plane[i] + sigma[i] * (same * common[i] + apart * own[i]);
      return out;
    });
    return { ...tile, planes };
  },
});

export const grain: EditKind<GrainSettings> = {
  kind: 'grain',
  rank: 'finish',
  finest: true,
  plain: { strength: 0, shape: USUAL_SHAPE, size: 0.5, colour: 0.2 },
  schema: strict({
    strength: between(0, 60),
    shape: numbers(NOISE_LEVELS).test(
      'levels',
      `\${path} must be ${NOISE_LEVELS} factors from 0 to 100`,
      (v) =>
        v === undefined ||
        (v.length === NOISE_LEVELS && v.every((e) => e !== undefined && e >= 0 && e <= 100)),
    ),
    size: between(0, 10),
    colour: share(),
  }),
  changes: ({ strength }) => strength > 0,
  says: ({ strength, size }) => `${strength.toFixed(1)} of 255, ${Number(size.toFixed(1))} px`,
  operators: [addGrain],
  compile: (graph, input, settings) => ({ changed: graph.add('addGrain', settings, [input]) }),
};
