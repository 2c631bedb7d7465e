import { DENOISE_MARGIN, denoisePlanes } from '../../finish/denoise';
import { operator } from '../../graph/operator';
import { grownAt } from '../../graph/place';
import { factOf, lightOf } from '../../graph/wanted';
import { share, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { cropped } from '../../graph/cropped';

/** Noise reduction by guided filters, as strong as the noise that was measured. */
export interface NoiseSettings {
  /** 0 none … 1 everything that is taken for noise */
  readonly strength: number;
}

/** from the second halving on, sixteen pixels average the noise away */
const COARSEST = 1;

const takeNoise = operator({
  kind: 'takeNoise',
  version: 1,
  gives: 'light',
  works: 'encoded',
  needs: (_, at, input) => (input === 0 && at.level <= COARSEST ? grownAt(at, DENOISE_MARGIN) : at),
  run: ([input, fact], _, { level, area }) => {
    const tile = lightOf(input, 'noise reduction');
    const sigma = (factOf(fact, 'noise reduction').value as number) / 2 ** level;
    if (level > COARSEST) return tile;
    const [width, height] = [area.width + 2 * DENOISE_MARGIN, area.height + 2 * DENOISE_MARGIN];
    const planes = tile.planes.map((p) => p.slice());
    // all of it is taken out; how much of that is wished for is a matter of mixing
    denoisePlanes(planes, width, height, 1, sigma);
    return cropped({ ...tile, planes }, width, height, DENOISE_MARGIN);
  },
});

export const noise: EditKind<NoiseSettings> = {
  kind: 'noise',
  rank: 'repair',
  finest: true,
  plain: { strength: 0 },
  schema: strict({ strength: share() }),
  changes: ({ strength }) => strength > 0,
  says: ({ strength }) => `${Math.round(100 * strength)} %`,
  operators: [takeNoise],
  compile: (graph, input, { strength }, place) =>
    place.noise ? { changed: graph.add('takeNoise', {}, [input, place.noise]), share: strength } : undefined,
};
