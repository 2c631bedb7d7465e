import { frameFindings } from '@/core/capture/frameFindings';
import { sharedByAll } from '@/core/finish/commonRectangle';
import { type Finding, judge, worstFinding } from '@/core/proof/finding';
import { type LimitId } from '@/core/proof/limits';
import { byExposure, fitOf, mergedFrames, mergeKey, type Project, referenceOf } from '@/core/recipe/project';
import { fitFindings, worstPlace } from '@/core/register/fitFindings';
import { type BenchState } from './bench';
import { type Station } from './session';

/** A finding as the bench shows it; `frame` is the id of the frame that its place lies in, the reference's grid when absent. */
export interface ShownFinding extends Finding {
  readonly frame?: string;
}

type Source = Pick<BenchState, 'history' | 'unreadable' | 'merged' | 'finished'>;

/** Findings of a station; undefined while its step has not been made. */
export function stationFindings(state: Source, station: Station): readonly ShownFinding[] | undefined {
  const { project } = state.history;
  if (project.frames.length === 0) return undefined;
  switch (station) {
    case 'frames': {
      const used = byExposure(project.frames.filter((f) => f.used));
      return frameFindings(used, state.unreadable).map((f) =>
        f.where?.frame === undefined ? f : { ...f, frame: used[f.where.frame].id },
      );
    }
    case 'fit':
      return findingsOfFit(project);
    case 'merge':
      return state.merged && state.merged.key === mergeKey(project) ? state.merged.findings : undefined;
    case 'layers':
      return findingsOfLayers(project);
    case 'finish':
      return state.finished?.findings;
  }
}

function findingsOfFit(project: Project): readonly Finding[] | undefined {
  const reference = referenceOf(project);
  const used = byExposure(project.frames).filter((f) => f.used);
  const frames = used.flatMap((frame) => {
    const registration = fitOf(project, frame);
    return registration ? [{ name: frame.file, registration, isReference: frame.id === reference?.id }] : [];
  });
  if (!reference || frames.length < used.length) return undefined;
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

/** What is painted in lies as well as the frame was fitted. */
function findingsOfLayers(project: Project): readonly Finding[] | undefined {
  const painted = project.layers.flatMap((layer) => {
    if (layer.source.kind !== 'frame' || !layer.visible) return [];
    const { frame: id } = layer.source;
    const frame = project.frames.find((f) => f.id === id);
    const fit = frame && fitOf(project, frame);
    return fit?.fitted && (layer.mask.base === 'shown' || layer.mask.strokes.length > 0) ? [fit] : [];
  });
  if (painted.length === 0) return undefined;
  const worst = painted.reduce((a, b) => (b.residual.worst > a.residual.worst ? b : a));
  return [judge('layers.doubling', worst.residual.worst, { where: worstPlace(worst) })];
}

/** What a station is best known by while all is well. */
const HEADLINE: Readonly<Partial<Record<Station, LimitId>>> = {
  frames: 'frames.spacing',
  fit: 'fit.typical',
  finish: 'finish.size',
};

/** What the trail shows for a station: its most serious finding, or its headline when none is serious. */
export function worstOf(state: Source, station: Station): Finding | undefined {
  const findings = stationFindings(state, station) ?? [];
  const worst = worstFinding(findings);
  const headline = findings.find((f) => f.id === HEADLINE[station]);
  return worst?.verdict === 'pass' ? (headline ?? worst) : worst;
}
