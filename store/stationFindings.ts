import { invert, type Matrix3, transform } from '@/core/raster/matrix3';
import { straightenOf } from '@/core/recipe/cropOf';
import { type SetMeasures } from '@/core/capture/setMeasures';
import { adjusts as changes, NO_ADJUST } from '@/core/match/adjust';
import { adjustCodes } from '@/core/match/adjustPlanes';
import { castOf } from '@/core/match/neutralOf';
import { frameFindings } from '@/core/capture/frameFindings';
import { sharedByAll } from '@/core/finish/commonRectangle';
import { turnFindings } from '@/core/merge/panorama/panoramaFindings';
import { type Finding, judge, worstFinding } from '@/core/proof/finding';
import { type LimitId } from '@/core/proof/limits';
import {
  fitOf,
  inOrder,
  type Frame,
  mergedFrames,
  mergeKey,
  type Project,
  referenceOf,
} from '@/core/recipe/project';
import { fitFindings, worstPlace } from '@/core/register/fitFindings';
import { type BenchState } from './bench';
import { measureKey } from './measureKey';
import { remember } from './remember';
import { type Station } from './session';

/** A finding as the bench shows it; `frame` is the id of the frame that its place lies in, the reference's grid when absent. */
export interface ShownFinding extends Finding {
  readonly frame?: string;
}

export type FindingSource = Pick<
  BenchState,
  'history' | 'unreadable' | 'merged' | 'finished' | 'measured' | 'proofed'
>;

/** Findings of a station; undefined while its step has not been made. */
export function stationFindings(state: FindingSource, station: Station): readonly ShownFinding[] | undefined {
  const { project } = state.history;
  if (project.frames.length === 0) return undefined;
  switch (station) {
    case 'frames':
      return findingsOfFrames(state);
    case 'fit':
      return findingsOfFit(project);
    case 'merge':
      return state.merged && state.merged.key === mergeKey(project) ? state.merged.findings : undefined;
    case 'layers':
      return findingsOfLayers(project, state.proofed?.made);
    case 'match':
      return findingsOfMatch(project);
    case 'finish':
      return state.finished?.findings;
    case 'proof':
      return findingsOfProof(state);
  }
}

export const findingsOfFit = remember(fitFindingsOf, ({ fits, frames, set, panorama }: Project) => [
  panorama,
  set.kind,
  fits,
  frames,
  set.reference,
  set.motion,
  set.region,
]);

function fitFindingsOf(project: Project): readonly Finding[] | undefined {
  const reference = referenceOf(project);
  const used = inOrder(project).filter((f) => f.used);
  const frames = used.flatMap((frame) => {
    const registration = fitOf(project, frame);
    return registration ? [{ name: frame.file, registration, isReference: frame.id === reference?.id }] : [];
  });
  if (!reference || frames.length < used.length) return undefined;
  const { panorama } = project;
  if (project.set.kind === 'panorama')
    return (
      panorama &&
      turnFindings(
        panorama.fit,
        panorama.frames.map((id) => nameOf(project, id)),
      )
    );
  const placed = mergedFrames(project).map(({ frame, registration }) => ({
    width: frame.width,
    height: frame.height,
    matrix: registration.matrix,
  }));
  return fitFindings(
    frames,
    sharedByAll({ x: 0, y: 0, width: reference.width, height: reference.height }, placed),
  );
}

const nameOf = (project: Project, id: string): string =>
  project.frames.find((f) => f.id === id)?.file ?? 'a frame';

/** What is painted in lies as well as the frame was fitted. */
function findingsOfLayers(
  project: Project,
  proofed: readonly Finding[] = [],
): readonly Finding[] | undefined {
  const painted = project.layers.flatMap((layer) => {
    if (layer.source.kind !== 'frame' || !layer.visible) return [];
    const { frame: id } = layer.source;
    const frame = project.frames.find((f) => f.id === id);
    const fit = frame && fitOf(project, frame);
    return fit?.fitted && (layer.mask.base === 'shown' || layer.mask.strokes.length > 0) ? [fit] : [];
  });
  if (painted.length === 0) return undefined;
  const worst = painted.reduce((a, b) => (b.residual.worst > a.residual.worst ? b : a));
  const doubling = judge('layers.doubling', worst.residual.worst, { where: worstPlace(worst) });
  return [doubling, ...proofed.filter((f) => f.id === 'layers.spill')];
}

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
  return { dust: set.dust, balance: at.map((i) => set.balance[i]), stops: at.map((i) => set.stops[i]) };
}

/** How neutral the sampled patches came out. */
function findingsOfMatch(project: Project): readonly Finding[] | undefined {
  const adjusts = [project.match.set, project.match.whole, ...project.layers.map((l) => l.adjust)];
  const patches = adjusts.flatMap(({ neutral }) => {
    if (!neutral) return [];
    const after = adjustCodes(neutral.before, { ...NO_ADJUST, neutral });
    const where = { x: neutral.x - 60, y: neutral.y - 60, width: 120, height: 120 };
    return [{ cast: castOf(after), where }];
  });
  if (!adjusts.some((a) => changes(a))) return undefined;
  const moved = Math.max(...adjusts.flatMap((a) => a.zones.map((z) => Math.abs(z.by))), 0);
  const worst = patches.reduce((a, b) => (b.cast > a.cast ? b : a), { cast: -1, where: NOWHERE });
  return [
    ...(worst.cast >= 0 ? [judge('match.cast', worst.cast, { where: worst.where })] : []),
    judge('match.moved', moved),
    judge('match.saturation', 100 * Math.max(...adjusts.map((a) => a.saturation))),
  ];
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
  const kept: readonly LimitId[] = [
    'fit.typical',
    'fit.worst',
    'merge.halo',
    'merge.fringe',
    'finish.uncovered',
  ];
  const earlier = [
    ...(findingsOfFit(project) ?? []),
    ...(state.merged?.findings ?? []),
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
  (state: FindingSource): readonly ShownFinding[] => {
    const { project } = state.history;
    const used = inOrder(project).filter((f) => f.used);
    const order = project.frames.filter((f) => f.used);
    const set =
      state.measured?.key === measureKey(project) ? reordered(state.measured.made, order, used) : undefined;
    const named = used.map((f, i) => ({ ...f, name: `Frame ${i + 1}` }));
    return frameFindings(named, state.unreadable, set, project.set.kind).map((f) =>
      f.where?.frame === undefined ? f : { ...f, frame: used[f.where.frame].id },
    );
  },
  ({ history: { project }, unreadable, measured }) => [
    project.frames,
    project.set.reference,
    project.set.kind,
    project.panorama,
    unreadable,
    measured,
  ],
);
