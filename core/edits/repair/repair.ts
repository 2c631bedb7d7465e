import { boolean } from 'yup';
import { operator } from '../../graph/operator';
import { resampled } from '../../graph/resample';
import { lightOf } from '../../graph/wanted';
import { pasted } from '../../repair/pasteGain';
import { between, oneOf, strict, text } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { copiedPatches } from './copiedPatches';
import { gainGrid, type GainGrid, gridAt, repairGain } from './repairGain';
import { type RepairSettings } from './repairSettings';

/**
 * A gap in the light of what is about it: what is laid over it keeps its detail, and takes the light of its surroundings on (gradient-domain
 * pasting: Pérez, Gangnet & Blake 2003, in ratios of linear light). Inputs: the picture, the gain on the grid of its settings, and what is laid
 * over; smooth light where that is left out.
 */
const repairLight = operator<GainGrid>({
  kind: 'repairLight',
  version: 1,
  gives: 'light',
  works: 'linear',
  needs: (settings, at, input) => (input === 1 ? gridAt(settings) : at),
  run: ([picture, gain, source], settings, at) => {
    const tile = lightOf(picture, 'a repair');
    const gains = lightOf(gain, 'a repair').planes;
    const laid = source && lightOf(source, 'a repair');
    const planes = tile.planes.map((own, c) => {
      const by = resampled(gains[c], gridAt(settings), at);
      const over = laid?.planes[c];
      return own.map((v, i) => {
        // a frame that does not reach here has nothing to show
        const share = laid?.alpha?.[i] ?? 1;
        return v + share * (pasted(over?.[i], by[i]) - v);
      });
    });
    return { ...tile, planes };
  },
});

/** pixels over which light is averaged before it is compared: what is copied has the same noise and sharpness, another frame lies a little off, and what is to go on smoothly must not go on from noise */
const ABOUT: Readonly<Record<RepairSettings['from'], number>> = { around: 0, frame: 1, smooth: 2 };

const SAYS: Readonly<Record<RepairSettings['from'], string>> = {
  frame: 'from another frame',
  around: 'from around it',
  smooth: 'smooth light',
};

/** Puts something else in the place of a spot, a wire, a walker: what another frame of the set shows there, or patches from around it. */
export const repair: EditKind<RepairSettings> = {
  kind: 'repair',
  rank: 'repair',
  plain: { from: 'smooth', frame: '', seed: 0, within: '', chosen: false },
  schema: strict({
    from: oneOf(['frame', 'around', 'smooth']),
    frame: text(80),
    seed: between(0, 999).integer(),
    within: text(80),
    chosen: boolean().strict(true).required(),
  }),
  changes: () => true,
  says: ({ from }) => SAYS[from],
  operators: [copiedPatches, repairGain, repairLight],
  compile: (graph, input, { from, frame, seed, within }, { where, frames, offsets }) => {
    if (!where) return undefined;
    const { mask, place } = where;
    const other = from === 'frame' ? frames?.lightOf(frame) : undefined;
    const found = from === 'around' ? offsets?.({ seed, within }) : undefined;
    const source =
      other ?? (found === undefined ? undefined : graph.add('copiedPatches', place, [input, found]));
    const grid = gainGrid(place.gap);
    const laid = source === undefined ? [] : [source];
    const gain = graph.add('repairGain', { ...grid, about: ABOUT[from] }, [input, mask, ...laid]);
    return { changed: graph.add('repairLight', grid, [input, gain, ...laid]) };
  },
};
