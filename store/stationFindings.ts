import { invert, type Matrix3, transform } from '@/core/raster/matrix3';
import { straightenOf } from '@/core/recipe/cropOf';
import { type SetMeasures } from '@/core/capture/setMeasures';
import { type Edit } from '@/core/edits/edit';
import { markCheck } from '@/core/edits/match/matchSettings';
import { chartDifferences } from '@/core/match/chart/chartProfile';
import { balancedCodes, castOf } from '@/core/edits/neutral/neutralOf';
import { changes } from '@/core/edits/ranked';
import { frameFindings } from '@/core/capture/frameFindings';
import { sharedByAll } from '@/core/finish/commonRectangle';
import { turnFindings } from '@/core/merge/panorama/panoramaFindings';
import { type Finding, judge, worstFinding } from '@/core/proof/finding';
import { type LimitId } from '@/core/proof/limits';
import {
  apartIn,
  baseScope,
  fitOf,
  inOrder,
  mergedFrames,
  panoramaOf,
  referenceOf,
  setScope,
} from '@/core/recipe/setFrames';
import { type Frame, type Project, type SetScope } from '@/core/recipe/project';
import { KEPT_KINDS } from '@/core/recipe/settings';
import { allLayers } from '@/core/layers/layer';
import { type PictureEffects } from '@/core/view/pictureEffects';
import { fitFindings, worstPlace } from '@/core/register/fitFindings';
import { activeScope } from './activeSet';
import { type BenchState } from './benchState';
import { measuresOf, mergedNow } from './madePixels';
import { editEffects, layerEffects } from './effectFindings';
import { groundFindings, platesOnGround } from './standingPlates';
import { remember } from './remember';
import { type Station } from './session';

/** A finding as the bench shows it; `frame` is the id of the frame that its place lies in, the reference's grid when absent. */
export interface ShownFinding extends Finding {
  readonly frame?: string;
}

export type FindingSource = Pick<
  BenchState,
  'history' | 'session' | 'unreadable' | 'merged' | 'finished' | 'made' | 'proofed' | 'effects'
>;

/** Findings of a station; undefined while its step has not been made. */
export function stationFindings(state: FindingSource, station: Station): readonly ShownFinding[] | undefined {
  const { project } = state.history;
  const scope = activeScope(state);
  if (project.frames.length === 0 || !scope) return undefined;
  switch (station) {
    case 'frames':
      return findingsOfFrames({ scope, unreadable: state.unreadable, measures: measuresOf(state, scope) });
    case 'fit':
      return findingsOfFit(scope);
    case 'merge':
      return mergedNow(state, scope)?.findings;
    case 'layers':
      return findingsOfLayers(project, state.proofed?.made, state.effects?.made);
    case 'match':
      return findingsOfMatch(project, state.effects?.made);
    case 'ground':
      return findingsOfGround(project);
    case 'finish':
      return state.finished?.findings;
    case 'proof':
      return findingsOfProof(state);
  }
}

export const findingsOfFit = remember(fitFindingsOf, (scope: SetScope) => [scope]);

function fitFindingsOf(scope: SetScope): readonly Finding[] | undefined {
  const reference = referenceOf(scope);
  const used = inOrder(scope).filter((f) => f.used);
  const frames = used.flatMap((frame) => {
    const registration = fitOf(scope, frame);
    if (!registration) return [];
    const apart = apartIn(scope, frame);
    const isReference = frame.id === reference?.id;
    return [{ name: frame.file, registration, isReference, ...(apart ? { apart } : {}) }];
  });
  if (!reference || frames.length < used.length) return undefined;
  if (scope.set.kind === 'panorama') {
    const panorama = panoramaOf(scope);
    const nameOf = (id: string): string => scope.frames.find((f) => f.id === id)?.file ?? 'a frame';
    // frames of a view are no frames of the panorama: they are left out of their view's bracket
    const within = used.flatMap((frame) => {
      const registration = panorama?.frames.includes(frame.id) ? undefined : fitOf(scope, frame);
      return registration && !registration.fitted ? [{ name: frame.file, why: registration.why }] : [];
    });
    return panorama && turnFindings(panorama.fit, panorama.frames.map(nameOf), within);
  }
  const placed = mergedFrames(scope).map(({ registration, width, height }) => ({
    width,
    height,
    matrix: registration.matrix,
  }));
  return fitFindings(
    frames,
    sharedByAll({ x: 0, y: 0, width: reference.width, height: reference.height }, placed),
  );
}

/** What is painted in lies as well as the frame was fitted. */
function findingsOfLayers(
  project: Project,
  proofed: readonly Finding[] = [],
  effects?: PictureEffects,
): readonly Finding[] | undefined {
  const painted = allLayers(project.layers).flatMap((layer) => {
    if (layer.kind !== 'picture' || layer.source.kind !== 'frame' || !layer.shown) return [];
    const { frame } = layer.source;
    const set = project.sets.find((s) => s.frames.includes(frame));
    const scope = set && setScope(project, set.id);
    const fit = scope && fitOf(scope, { id: frame });
    return fit?.fitted && !isNowhere(layer.where) ? [fit] : [];
  });
  const idle = layerEffects(project, effects);
  if (painted.length === 0) return idle.length > 0 ? idle : undefined;
  const worst = painted.reduce((a, b) => (b.residual.worst > a.residual.worst ? b : a));
  const doubling = judge('layers.doubling', worst.residual.worst, { where: worstPlace(worst) });
  return [doubling, ...proofed.filter((f) => f.id === 'layers.spill'), ...idle];
}

/** Whether a region waits for the brush: nothing is shown yet. */
const isNowhere = (where: Edit['where']): boolean =>
  typeof where === 'object' &&
  !where.invert &&
  where.parts.length === 1 &&
  where.parts[0].how === 'add' &&
  where.parts[0].part.kind === 'strokes' &&
  where.parts[0].part.settings.strokes.length === 0;

/** What a station is best known by while all is well. */
const HEADLINE: Readonly<Partial<Record<Station, LimitId>>> = {
  frames: 'frames.spacing',
  fit: 'fit.typical',
  finish: 'finish.size',
  match: 'match.moved',
};

/** What the trail shows for a station: its most serious finding, or its headline when none is serious. */
export function worstOf(state: FindingSource, station: Station): Finding | undefined {
  const findings = stationFindings(state, station) ?? [];
  const worst = worstFinding(findings);
  const headline = findings.find((f) => f.id === HEADLINE[station]);
  return worst?.verdict === 'pass' ? (headline ?? worst) : worst;
}

/** Measures of a set in another order of its frames. */
function reordered(set: SetMeasures, from: readonly Frame[], to: readonly Frame[]): SetMeasures {
  const at = to.map((f) => from.indexOf(f));
  return { ...set, balance: at.map((i) => set.balance[i]), stops: at.map((i) => set.stops[i]) };
}

/** How neutral the sampled patches came out, and how far tones and colours were moved. */
function findingsOfMatch(project: Project, effects?: PictureEffects): readonly Finding[] | undefined {
  const edits = [
    ...project.edits,
    ...project.sets.flatMap((s) => s.edits),
    ...allLayers(project.layers).flatMap((l) => l.edits),
  ].filter((e) => changes(e) && KEPT_KINDS.match.some((kind) => kind === e.kind));
  if (edits.length === 0) return undefined;
  const patches = edits.flatMap((e) => {
    if (e.kind !== 'neutral') return [];
    const { x, y, before } = e.settings;
    return [
      {
        cast: castOf(balancedCodes(before, e.settings)),
        where: { x: x - 60, y: y - 60, width: 120, height: 120 },
      },
    ];
  });
  const moves = edits.flatMap((e) => {
    if (e.kind === 'exposure') return [Math.abs(e.settings.stops)];
    if (e.kind === 'hues') return e.settings.hues.map((h) => Math.abs(h.light));
    return e.kind === 'zones' ? e.settings.zones.map((z) => Math.abs(z.by)) : [];
  });
  const factors = edits.flatMap((e) => {
    if (e.kind === 'hues') return e.settings.hues.map((h) => h.chroma);
    return e.kind === 'saturation' ? [e.settings.factor] : [];
  });
  const charts = edits.flatMap((e) =>
    e.kind === 'chart' ? [chartDifferences(e.settings.colours, e.settings.matrix).after] : [],
  );
  // beside other things a difference is no fault
  const left = edits.flatMap((e) =>
    e.kind === 'match' && e.settings.scores?.paired ? e.settings.scores.after.deltaE : [],
  );
  const marks = edits.flatMap((e) =>
    e.kind === 'match' ? (e.settings.marks ?? []).map((m) => ({ ...m, ...markCheck(m, e.settings) })) : [],
  );
  const missed = marks.reduce((a, b) => (b.off > a.off ? b : a), { off: -1, x: 0, y: 0 });
  const worst = patches.reduce((a, b) => (b.cast > a.cast ? b : a), { cast: -1, where: NOWHERE });
  return [
    ...(worst.cast >= 0 ? [judge('match.cast', worst.cast, { where: worst.where })] : []),
    ...(charts.length > 0 ? [judge('match.chart', Math.max(...charts))] : []),
    ...(left.length > 0 ? [judge('match.left', Math.max(...left))] : []),
    ...(missed.off >= 0
      ? [
          judge('match.mark', missed.off, {
            where: { x: missed.x - 60, y: missed.y - 60, width: 120, height: 120 },
          }),
        ]
      : []),
    judge('match.moved', Math.max(...moves, 0)),
    judge('match.saturation', 100 * Math.max(...factors, 1)),
    ...editEffects(project, effects),
  ];
}

/** How the plates stand, once there is a ground: of each measure the worst plate. */
function findingsOfGround(project: Project): readonly Finding[] | undefined {
  const plates = platesOnGround(project);
  if (plates.length === 0 || !project.space) return undefined;
  const all = plates.flatMap((p) => groundFindings(project, p));
  return [...new Set(all.map((f) => f.id))].flatMap(
    (id) => worstFinding(all.filter((f) => f.id === id)) ?? [],
  );
}

const NOWHERE = { x: 0, y: 0, width: 1, height: 1 };

/** Findings whose places lie on the straightened picture already. */
const ON_FINISHED: ReadonlySet<LimitId> = new Set(['finish.uncovered']);

/** A finding of the reference's grid with its place on the straightened picture. */
function moved(finding: Finding, back: Matrix3): Finding {
  const { where } = finding;
  if (!where) return finding;
  const { width, height } = where;
  const [x, y] = transform(back, where.x + width / 2, where.y + height / 2);
  return { ...finding, where: { ...where, x: x - width / 2, y: y - height / 2 } };
}

/** The proof: what the finished picture shows by itself, and what earlier steps measured that must hold in it. */
function findingsOfProof(state: FindingSource): readonly Finding[] | undefined {
  if (!state.proofed) return undefined;
  const { project } = state.history;
  // what must hold in the picture was measured on the set that it stands on
  const scope = baseScope(project);
  const kept: readonly LimitId[] = [
    'fit.typical',
    'fit.worst',
    'merge.halo',
    'merge.fringe',
    'finish.uncovered',
  ];
  const earlier = [
    ...((scope && findingsOfFit(scope)) ?? []),
    ...((scope && mergedNow(state, scope)?.findings) ?? []),
    ...(findingsOfLayers(project) ?? []),
    ...(state.finished?.findings ?? []),
  ];
  const back = invert(straightenOf(project));
  const shown = earlier
    .filter((f) => kept.includes(f.id))
    .map((f) => (ON_FINISHED.has(f.id) ? f : moved(f, back)));
  return [...state.proofed.made.map((f) => (f.id === 'layers.spill' ? moved(f, back) : f)), ...shown];
}

const findingsOfFrames = remember(
  ({
    scope,
    unreadable,
    measures,
  }: {
    readonly scope: SetScope;
    readonly unreadable: number;
    readonly measures: SetMeasures | undefined;
  }): readonly ShownFinding[] => {
    const used = inOrder(scope).filter((f) => f.used);
    const order = scope.frames.filter((f) => f.used);
    const all = measures && reordered(measures, order, used);
    // what is taken out is no fault any more
    const set = all && scope.set.prepare.dust ? { ...all, dust: all.dust.slice(all.shades.length) } : all;
    const named = used.map((f, i) => ({ ...f, name: `Frame ${i + 1}` }));
    return frameFindings(named, unreadable, set, scope.set.kind).map((f) =>
      f.where?.frame === undefined ? f : { ...f, frame: used[f.where.frame].id },
    );
  },
  ({ scope, unreadable, measures }) => [scope, unreadable, measures],
);
