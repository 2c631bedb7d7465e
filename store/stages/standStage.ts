import { type InflateNodes } from '@/core/graph/compiledPicture';
import { type Picture } from '@/core/graph/tile';
import { type Project } from '@/core/recipe/project';
import { type BenchState } from '../benchState';
import { buildPicture } from '../buildScene';
import { type Stage } from './stage';

/** A silhouette that is to be blown up and was not yet; undefined where all are. */
function lackingField(
  state: BenchState,
  project: Project,
): { readonly nodes: InflateNodes; readonly from: Picture } | undefined {
  const built = buildPicture(state, project);
  for (const nodes of built?.compiled.inflated ?? []) {
    if (state.made[nodes.field]) continue;
    const from = built?.valueOf(nodes.picture);
    if (from?.is === 'picture') return { nodes, from };
  }
  return undefined;
}

/** Whether everything that stands on the ground can be lit. */
export const allStand = (state: BenchState, project: Project): boolean =>
  lackingField(state, project) === undefined;

/** Blows up the silhouette of what stands on the ground. */
export function standStage(state: BenchState, project: Project): Stage | undefined {
  const lacking = lackingField(state, project);
  if (!lacking) return undefined;
  const { nodes, from } = lacking;
  return {
    key: `stand ${nodes.field}`,
    text: 'Lighting what stands on the ground',
    run: async (pool, signal) => {
      const field = await pool.run((tasks) => tasks.inflate(from.levels), { signal });
      return (now) => ({ made: { ...now.made, [nodes.field]: field } });
    },
  };
}
