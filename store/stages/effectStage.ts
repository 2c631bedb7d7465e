import { changes, kindOf } from '@/core/edits/ranked';
import { contentHash } from '@/core/graph/contentHash';
import { allLayers, type Layer } from '@/core/layers/layer';
import { packStroke } from '@/core/mask/packStroke';
import { type Region } from '@/core/region/region';
import { type ChangeNodes, type PaintedPart, type PictureEffects } from '@/core/view/pictureEffects';
import { type DrawnGraph } from '@/core/view/viewScene';
import { type Project } from '@/core/recipe/project';
import { type BenchState, type BuiltPicture } from '../benchState';
import { buildPicture, drawnGraph } from '../buildScene';
import { allEdits } from '../edits/list';
import { ownRegions } from '../edits/regions';
import { remember } from '../remember';
import { upToDate } from './finishStage';
import { quiet } from './quiet';
import { type Stage } from './stage';

/** milliseconds without an edit after which it is looked at what does nothing */
const QUIET = 900;
/** layers and edits of each sort that are looked at, at most */
const MOST = 24;

/** A project with one layer shown or hidden, wherever it stands. */
function withShown(project: Project, id: string, shown: boolean): Project {
  const change = (layer: Layer): Layer => {
    if (layer.id === id) return { ...layer, shown };
    return layer.kind === 'group' ? { ...layer, layers: layer.layers.map(change) } : layer;
  };
  return { ...project, layers: project.layers.map(change) };
}

interface Asked {
  readonly changes: readonly ChangeNodes[];
  readonly masks: readonly { readonly id: string; readonly mask: string }[];
  readonly painted: readonly PaintedPart[];
  readonly drawn: DrawnGraph;
}

const NOTHING: PictureEffects = { changes: [], masks: [], strokes: [] };

/** Gives the page a moment between two recipes that are compiled. */
const breathe = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/** What is to be looked at: the picture without each layer that is shown, with each that is not, and each edit before and after. */
async function askedOf(
  state: BenchState,
  project: Project,
  built: BuiltPicture,
  signal: AbortSignal,
): Promise<Asked | undefined> {
  const { compiled } = built;
  const layers = project.layers.length > 1 ? allLayers(project.layers).slice(0, MOST) : [];
  const graphs: DrawnGraph[] = [];
  const variants: ChangeNodes[] = [];
  for (const { id, shown } of layers) {
    await breathe();
    if (signal.aborted) return undefined;
    const other = buildPicture(state, withShown(project, id, !shown));
    const drawn = other && drawnGraph(other, [other.compiled.result]);
    // one that is not made yet, or that makes another picture, tells nothing
    if (!drawn || other.compiled.width !== compiled.width || other.compiled.height !== compiled.height)
      continue;
    graphs.push(drawn);
    const [own, changed] = [compiled.result, other.compiled.result];
    variants.push({ id, without: shown ? changed : own, with: shown ? own : changed });
  }
  const edits = allEdits(project)
    .filter(changes)
    .slice(0, MOST)
    .flatMap((edit) => {
      const nodes = compiled.edits.get(edit.id);
      if (!nodes) return [];
      const { before, after, mask } = nodes;
      return [{ id: edit.id, finest: kindOf(edit).finest, without: before, with: after, mask }];
    });
  const masks = [
    ...compiled.layers.flatMap(({ id, mask }) => (mask === undefined ? [] : [{ id, mask }])),
    ...edits.flatMap(({ id, mask }) => (mask === undefined ? [] : [{ id, mask }])),
  ];
  const asked = [...variants, ...edits.map(({ mask: _, ...change }) => change)];
  const painted = ownRegions(project).flatMap(({ region }) => paintedParts(region));
  const own = drawnGraph(built, [
    compiled.result,
    ...edits.flatMap((e) => [e.without, e.with]),
    ...masks.map((m) => m.mask),
  ]);
  if (!own) return undefined;
  const all = [own, ...graphs];
  return {
    ...{ changes: asked, masks, painted },
    drawn: {
      nodes: new Map(all.flatMap((g) => [...g.nodes])),
      made: new Map(all.flatMap((g) => [...g.made])),
    },
  };
}

const paintedParts = ({ id, parts }: Region): PaintedPart[] =>
  parts.flatMap(({ part, on }, at) =>
    on && part.kind === 'strokes' && part.settings.strokes.length > 0
      ? [{ id, part: at, strokes: part.settings.strokes.map(packStroke) }]
      : [],
  );

/** Whether there is anything that could do nothing. */
const isAsked = (project: Project): boolean =>
  project.layers.length > 1 ||
  allEdits(project).some(changes) ||
  ownRegions(project).some(({ region }) => paintedParts(region).length > 0);

interface BuiltOf {
  readonly built: BuiltPicture;
  readonly project: Project;
}

const keyOf = remember(
  ({ built, project }: BuiltOf): string => {
    const { result, finished } = built.compiled;
    // what is hidden is not in the picture's own nodes
    const hidden = allLayers(project.layers).filter((l) => !l.shown);
    return `effects ${result} ${finished} ${contentHash({ hidden })}`;
  },
  ({ built, project }) => [built, project],
);

/** What changes and regions of a project do, as it stands; undefined until it was looked at. */
export function effectsNow(state: BenchState, project: Project): PictureEffects | undefined {
  const built = state.effects && upToDate(state, project);
  return built && state.effects?.key === keyOf({ built, project }) ? state.effects.made : undefined;
}

/** What of the picture does nothing, looked at when the hand has rested for a while. */
export function effectStage(state: BenchState, project: Project): Stage | undefined {
  const built = isAsked(project) ? upToDate(state, project) : undefined;
  if (!built) return undefined;
  const { width, height } = built.compiled;
  const key = keyOf({ built, project });
  if (state.effects?.key === key) return undefined;
  return {
    key,
    text: '',
    run: async (pool, signal) => {
      await quiet(QUIET, signal);
      const asked = await askedOf(state, project, built, signal);
      const scene = asked && { ...asked, width, height };
      const made = scene ? await pool.run((tasks) => tasks.effects(scene), { signal }) : NOTHING;
      return () => ({ effects: { key, made } });
    },
  };
}
