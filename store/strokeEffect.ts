import { allLayers, type Layer } from '@/core/layers/layer';
import { type Project } from '@/core/recipe/project';
import { type WorkerPool } from '@/engine/workerPool';
import { buildPicture, drawnGraph } from './buildScene';
import { type MadeState } from './madePixels';
import { type IdleStroke } from './benchState';

/** side of the square that is compared at a place, pixels */
const SIDE = 5;
/** a change of less than this is none, codes of 255 */
const NOTHING = 0.4;

/** Where it is looked, and by whom. */
export interface StrokePlaces {
  readonly project: Project;
  /** full-size pixels of the picture */
  readonly places: readonly (readonly [x: number, y: number])[];
  readonly pool: WorkerPool;
  readonly signal: AbortSignal;
}

/** A recipe with one layer shown everywhere, or not at all. */
function withLayer(project: Project, id: string, shown: boolean): Project {
  const change = (layer: Layer): Layer => {
    if (layer.id === id) {
      const { where: _, ...everywhere } = layer;
      return { ...everywhere, shown };
    }
    return layer.kind === 'group' ? { ...layer, layers: layer.layers.map(change) } : layer;
  };
  return { ...project, layers: project.layers.map(change) };
}

/** Mean codes of the picture at places; undefined while something that it is made from is not there. */
function codesAt(
  state: MadeState,
  { project, places, pool, signal }: StrokePlaces,
): Promise<readonly number[]> | undefined {
  const built = buildPicture(state, project);
  const { result } = built?.compiled ?? {};
  const drawn = built && result !== undefined ? drawnGraph(built, [result]) : undefined;
  if (!drawn || result === undefined) return undefined;
  return Promise.all(
    places.map(([x, y]) => {
      const area = { x: Math.round(x) - 2, y: Math.round(y) - 2, width: SIDE, height: SIDE };
      return pool.run((tasks) => tasks.sample(drawn, result, area), { signal, priority: 1 });
    }),
  ).then((codes) => codes.flat());
}

/** Whether any region of a layer could change the picture at some places; undefined while that cannot be told. */
async function canShow(state: MadeState, layer: string, at: StrokePlaces): Promise<boolean | undefined> {
  const seen = (shown: boolean) => codesAt(state, { ...at, project: withLayer(at.project, layer, shown) });
  const [on, off] = [await seen(true), await seen(false)];
  return on && off && on.some((code, i) => Math.abs(code - off[i]) > NOTHING);
}

/**
 * Whether a stroke in a layer's region can change nothing at some places, because the layer is covered there or looks like what lies beneath; and the layer that
 * was most likely meant: the nearest that shows there.
 * @returns undefined when it changes something, or when that cannot be told
 */
export async function idleStroke(
  state: MadeState,
  layer: string,
  at: StrokePlaces,
): Promise<IdleStroke | undefined> {
  if ((await canShow(state, layer, at)) !== false) return undefined;
  // the farthest is what all others lie on
  const others = allLayers(at.project.layers)
    .slice(1)
    .filter((l) => l.id !== layer && l.shown)
    .reverse();
  for (const { id } of others) if (await canShow(state, id, at)) return { layer, meant: id };
  return { layer };
}
