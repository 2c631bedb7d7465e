import { produce } from 'immer';
import { type Edit } from '@/core/edits/edit';
import { type CompiledPicture } from '@/core/graph/compiledPicture';
import { allLayers } from '@/core/layers/layer';
import { type Rectangle } from '@/core/raster/raster';
import { type FrameSet, type Project } from '@/core/recipe/project';
import { type DrawnGraph } from '@/core/view/viewScene';
import { activeScope } from './activeSet';
import { type BenchState, type LiveStroke, type ShownScene } from './benchState';
import { buildPicture, drawnGraph, pictureScene, setScene } from './buildScene';
import { projectAfter } from './earlierPicture';
import { openEditOf } from './edits/openEdit';
import { addStroke } from './edits/regions';
import { remember } from './remember';
import { type BeforeStep, type Session, type Station } from './session';
import { inFull, mergedBy, onlyLayer, withoutEdit, withoutStep } from './variants';

type Inputs = Pick<BenchState, 'decoded' | 'made' | 'cuts' | 'merged' | 'proxies' | 'rival' | 'live'> & {
  readonly project: Project;
  readonly scope: ReturnType<typeof activeScope>;
  readonly solo: string;
  readonly step: BeforeStep | 'full' | undefined;
  /** the edit that is left out, where one is */
  readonly edit: string;
  /** the recipe as it was, where that is compared */
  readonly then: Project | undefined;
  readonly methods: boolean;
};

const inputsOf = (state: BenchState): Inputs => ({
  project: state.history.project,
  decoded: state.decoded,
  made: state.made,
  cuts: state.cuts,
  merged: state.merged,
  proxies: state.proxies,
  rival: state.rival,
  live: state.live,
  scope: activeScope(state),
  solo: state.session.solo,
  ...comparedOf(state),
  methods: state.session.look === 'methods',
});

/** What the picture is compared with: a state of its own without something, or with all of it. */
function comparedOf(state: BenchState): Pick<Inputs, 'step' | 'edit' | 'then'> {
  const { session } = state;
  const openEdit = (): string => openEditOf(state)?.id ?? '';
  switch (session.look) {
    case 'before': {
      // a line that was taken back since is compared no more
      const then = session.before === 'then' ? thenOf(state) : undefined;
      if (then) return { step: 'then', edit: '', then };
      return { step: beforeStep(session), edit: session.before === 'edit' ? session.edit : '', then };
    }
    case 'difference':
      return { step: 'edit', edit: openEdit(), then: undefined };
    case 'full':
      return { step: 'full', edit: openEdit(), then: undefined };
    default:
      return { step: undefined, edit: '', then: undefined };
  }
}

/** The recipe as it was at the line of the record that is compared. */
const thenOf = remember(
  ({ history, session }: Pick<BenchState, 'history' | 'session'>) =>
    projectAfter(history, session.then ?? -1),
  ({ history: { project, past }, session }) => [project, past, session.then],
);

const PIXELS = [
  'decoded',
  'merged',
  'proxies',
  'rival',
  'made',
  'cuts',
  'scope',
  'solo',
  'step',
  'edit',
  'then',
  'methods',
] as const;

const alike = (a: Inputs, b: Inputs, names: readonly (keyof Inputs)[]): boolean =>
  names.every((name) => a[name] === b[name]);

/** The step that “before” leaves out where the station does not ask which. */
const OWN_STEP: Readonly<Partial<Record<Station, BeforeStep>>> = {
  layers: 'layers',
  match: 'match',
  ground: 'ground',
  finish: 'finish',
};

/** What “before” leaves out: the open edit where that is asked for, else the station's own step, else the one that was chosen. */
const beforeStep = ({ before, station }: Session): BeforeStep =>
  before === 'edit' ? before : (OWN_STEP[station] ?? (before === 'then' ? 'fit' : before));

/** Whether what a stroke changes shows elsewhere too: a repair of the same gap, or one that copies from where it is drawn. */
function reachesFar({ sets, layers, edits }: Project, live: LiveStroke | undefined): boolean {
  if (!live) return false;
  const isRepair = (e: Edit): boolean => e.kind === 'repair' && e.on;
  const { owner } = live;
  const ofSets = sets
    .flatMap((s) => s.edits)
    .some((e) => owner.kind === 'edit' && e.id === owner.edit && isRepair(e));
  return ofSets || edits.some(isRepair) || allLayers(layers).some((l) => l.edits.some(isRepair));
}

/** What a change of the state has changed of the picture: a stroke only what its last movement touched, everything else the whole. */
function dirtyOf(before: Inputs, now: Inputs): Rectangle | undefined {
  if (!alike(before, now, PIXELS) || reachesFar(now.project, now.live ?? before.live)) return undefined;
  if (now.live) return before.project === now.project ? now.live.touched : undefined;
  // the stroke has become a step of the history, and looks as it did
  return before.live && before.project !== now.project ? before.live.touched : undefined;
}

/** The recipe as it is shown: with the stroke that is being drawn, or one layer alone. */
function shownProject({ project, live, solo }: Inputs): Project {
  const drawn = live
    ? produce(project, (draft) => {
        addStroke(live.owner, live.stroke)(draft);
      })
    : project;
  return solo ? onlyLayer(drawn, solo) : drawn;
}

/** The recipe without what is compared; undefined where that is the reference as it was shot. */
function withoutIt(project: Project, { step, edit, then }: Inputs): Project | undefined {
  switch (step) {
    case undefined:
    case 'fit':
      return undefined;
    case 'then':
      return then;
    case 'edit':
      return withoutEdit(project, edit);
    case 'full':
      return inFull(project, edit);
    default:
      return withoutStep(project, step);
  }
}

/** Several graphs as one: nodes are known by what they say. */
const joined = <T extends DrawnGraph>(first: T, ...others: readonly (DrawnGraph | undefined)[]): T => ({
  ...first,
  nodes: new Map([first, ...others].flatMap((g) => (g ? [...g.nodes] : []))),
  made: new Map([first, ...others].flatMap((g) => (g ? [...g.made] : []))),
});

function shownOf(inputs: Inputs): Omit<ShownScene, 'dirty'> {
  const { scope, methods } = inputs;
  const project = shownProject(inputs);
  const set = scope && setScene(inputs, project, scope);
  const built = buildPicture(inputs, project);
  if (!set || !built || !scope) return { scene: undefined };
  const { compiled } = built;
  const variant = withoutIt(project, inputs);
  const earlier = variant && buildPicture(inputs, variant);
  const old = earlier && drawnGraph(earlier, [earlier.compiled.result, earlier.compiled.finished]);
  const ways = methods ? bothWays(inputs, project, scope.set) : undefined;
  const picture = pictureScene(built, masksOf(compiled));
  return {
    built,
    scene: {
      width: compiled.width,
      height: compiled.height,
      set,
      ...(picture ? { picture: old || ways ? joined(picture, old, ways?.drawn) : picture } : {}),
    },
    ...(old && earlier
      ? { before: { result: earlier.compiled.result, finished: earlier.compiled.finished } }
      : {}),
    ...(ways ? { methods: ways.methods } : {}),
  };
}

/** A set merged as it is and the other way, as pictures of their own. */
function bothWays(
  inputs: Inputs,
  project: Project,
  { id, method }: FrameSet,
):
  | { readonly drawn: DrawnGraph; readonly methods: { readonly own: string; readonly rival?: string } }
  | undefined {
  const alone = { ...project, base: id };
  const pictureOf = (of: Project): { readonly node: string; readonly drawn: DrawnGraph } | undefined => {
    const built = buildPicture(inputs, of);
    const drawn = built && drawnGraph(built, [built.compiled.base]);
    return drawn && { node: built.compiled.base, drawn };
  };
  const own = pictureOf(alone);
  if (!own) return undefined;
  const rival = inputs.rival
    ? pictureOf(mergedBy(alone, id, method === 'fusion' ? 'radiance' : 'fusion'))
    : undefined;
  return {
    drawn: rival ? joined(own.drawn, rival.drawn) : own.drawn,
    methods: { own: own.node, ...(rival ? { rival: rival.node } : {}) },
  };
}

/** Masks that may be looked at. */
function masksOf({ layers, edits }: CompiledPicture): string[] {
  return [...layers, ...edits.values()].flatMap(({ mask }) => (mask === undefined ? [] : [mask]));
}

/** Follows the states of a bench, one after the other; the same scene comes back as long as nothing that it is made from has changed. */
export function followScene(): (state: BenchState) => ShownScene {
  let before: Inputs | undefined;
  let shown: ShownScene = { scene: undefined };
  return (state) => {
    const now = inputsOf(state);
    if (before && alike(before, now, [...PIXELS, 'project', 'live'])) return shown;
    shown = { ...shownOf(now), dirty: before && dirtyOf(before, now) };
    before = now;
    return shown;
  };
}
