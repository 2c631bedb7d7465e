import { type Edit } from '@/core/edits/edit';
import { changes, isLate } from '@/core/edits/ranked';
import { contentHash } from '@/core/graph/contentHash';
import { allLayers, type Layer } from '@/core/layers/layer';
import { packStroke } from '@/core/mask/packStroke';
import { type Region } from '@/core/region/region';
import { type PaintedPart, type PictureEffects } from '@/core/view/pictureEffects';
import { type DrawnGraph } from '@/core/view/viewScene';
import { type Project } from '@/core/recipe/project';
import { type BenchState, type BuiltPicture } from '../benchState';
import { buildPicture, drawnGraph } from '../buildScene';
import { allEdits } from '../edits/list';
import { ownRegions } from '../edits/regions';
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

/** Edits that can be looked at small: what is done to the finest detail does not show there. */
const isTold = (edit: Edit): boolean => changes(edit) && !isLate(edit) && edit.kind !== 'noise';

interface Asked {
  readonly key: string;
  readonly changes: readonly { readonly id: string; readonly without: string; readonly with: string }[];
  readonly masks: readonly { readonly id: string; readonly mask: string }[];
  readonly painted: readonly PaintedPart[];
  readonly drawn: DrawnGraph;
}

/** What is to be looked at: the picture without each layer that is shown, with each that is not, and each edit before and after. */
function askedOf(state: BenchState, project: Project, built: BuiltPicture): Asked | undefined {
  const { compiled } = built;
  const layers = project.layers.length > 1 ? allLayers(project.layers).slice(0, MOST) : [];
  const graphs: DrawnGraph[] = [];
  const variants = layers.flatMap(({ id, shown }) => {
    const other = buildPicture(state, withShown(project, id, !shown));
    const drawn = other && drawnGraph(other, [other.compiled.result]);
    if (!drawn || other.compiled.width !== compiled.width || other.compiled.height !== compiled.height)
      return [];
    graphs.push(drawn);
    const [own, changed] = [compiled.result, other.compiled.result];
    return [{ id, without: shown ? changed : own, with: shown ? own : changed }];
  });
  const edits = allEdits(project)
    .filter(isTold)
    .slice(0, MOST)
    .flatMap(({ id }) => {
      const nodes = compiled.edits.get(id);
      return nodes && !nodes.late ? [{ id, without: nodes.before, with: nodes.after, mask: nodes.mask }] : [];
    });
  const masks = [
    ...compiled.layers.flatMap(({ id, mask }) => (mask === undefined ? [] : [{ id, mask }])),
    ...edits.flatMap(({ id, mask }) => (mask === undefined ? [] : [{ id, mask }])),
  ];
  const asked = [...variants, ...edits.map(({ id, without, with: after }) => ({ id, without, with: after }))];
  const painted = ownRegions(project).flatMap(({ region }) => paintedParts(region));
  if (asked.length + painted.length === 0) return undefined;
  const own = drawnGraph(built, [
    compiled.result,
    ...edits.flatMap((e) => [e.without, e.with]),
    ...masks.map((m) => m.mask),
  ]);
  if (!own) return undefined;
  const all = [own, ...graphs];
  return {
    ...{ changes: asked, masks, painted, key: contentHash({ asked, masks, parts: painted.length }) },
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

/** What of the picture does nothing, looked at when the hand has rested for a while. */
export function effectStage(state: BenchState, project: Project): Stage | undefined {
  const built = upToDate(state, project);
  const asked = built && askedOf(state, project, built);
  if (!built || !asked || state.effects?.key === asked.key) return undefined;
  const { key, drawn, changes: nodes, masks, painted } = asked;
  const { width, height } = built.compiled;
  return {
    key: `effects ${key}`,
    text: '',
    run: async (pool, signal) => {
      await quiet(QUIET, signal);
      const scene = { drawn, width, height, changes: nodes, masks, painted };
      const made: PictureEffects = await pool.run((tasks) => tasks.effects(scene), { signal });
      return () => ({ effects: { key, made } });
    },
  };
}
