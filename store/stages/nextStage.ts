import { missing } from '@/core/graph/missing';
import { type Project, type SetScope } from '@/core/recipe/project';
import { referenceOf } from '@/core/recipe/setFrames';
import { setGraph } from '@/core/recipe/setGraph';
import { scopesOf } from '../activeSet';
import { type BenchState } from '../benchState';
import { apartStage, bendAgainStage, bendFrameStage, measureBendStage } from './bendStage';
import { borderStage } from './borderStage';
import { tonedStage } from './bracketFindings';
import { allCut, cutStage } from './cutStage';
import { effectStage } from './effectStage';
import { finishStage, plateNoiseStage, proofStage } from './finishStage';
import { fitSetStage, fitStage } from './fitStage';
import { mergeStage, rivalStage } from './mergeStage';
import { measureStage, prepareStage } from './prepareStage';
import { proxyStage } from './proxyStage';
import { allRepaired, repairStage } from './repairStage';
import { type Stage } from './stage';
import { allStand, standStage } from './standStage';
import { viewStage } from './viewStage';

/**
 * The first step that is missing: measures of each set, its preparation, fits, its merge; then the small finished picture that findings and
 * charts are made from, its proof. Undefined when everything is made or frames are still being decoded.
 * @param isSeen whether someone waits for a first look: large sets are merged small before
 */
export function nextStage(state: BenchState, isSeen = true): Stage | undefined {
  const { project } = state.history;
  const scopes = scopesOf(project);
  for (const scope of scopes) {
    const stage = stageOfSet(state, scope, isSeen);
    if (stage === 'waits') return undefined;
    if (stage) return stage;
  }
  return (
    firstOf(scopes, (scope) => bendAgainStage(state, scope)) ??
    cutStage(state, project, isSeen) ??
    standStage(state, project) ??
    repairStage(state, project) ??
    plateNoiseStage(state, project) ??
    finishStage(state, project) ??
    firstOf(scopes, (scope) => measureStage(state, scope)) ??
    firstOf(scopes, (scope) => prepareStage(state, scope)) ??
    proofStage(state, project) ??
    firstOf(scopes, (scope) => tonedStage(state, scope)) ??
    firstOf(scopes, (scope) => apartStage(state, scope)) ??
    rivalStage(state) ??
    effectStage(state, project)
  );
}

function firstOf<T>(scopes: readonly SetScope[], of: (scope: SetScope) => T | undefined): T | undefined {
  for (const scope of scopes) {
    const found = of(scope);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** What a set lacks to be merged, told by its graph; `waits` while a frame of it is being decoded. */
function stageOfSet(state: BenchState, scope: SetScope, isSeen: boolean): Stage | 'waits' | undefined {
  if (!referenceOf(scope)) return undefined;
  const { graph, merge } = setGraph(scope);
  const [first] = missing(graph, [merge], (hash) => isMade(state, scope, hash));
  switch (first?.kind) {
    case undefined:
      return undefined;
    case 'frame':
      return 'waits';
    case 'measureSet':
      return measureStage(state, scope);
    case 'prepare':
      return prepareStage(state, scope);
    case 'fitFrame':
    case 'joinFits':
    case 'mergeView':
      return viewStage(state, scope) ?? fitStage(state, scope);
    case 'fitSet':
      return fitSetStage(state, scope);
    case 'measureBend':
      return measureBendStage(state, scope);
    case 'bendFrame':
      return bendFrameStage(state, scope);
    case 'bendBorder':
      return borderStage(state, scope);
    case 'mergeSet':
      return (isSeen ? proxyStage(state, scope) : undefined) ?? mergeStage(state, scope);
    default:
      throw new Error(`nothing makes “${first.kind}”`);
  }
}

/** Whether what a node of a set stands for is at hand. */
function isMade(state: BenchState, scope: SetScope, hash: string): boolean {
  const nodes = setGraph(scope);
  const node = nodes.graph.get(hash);
  if (node?.kind === 'frame') return state.decoded[(node.settings as { hash: string }).hash] !== undefined;
  if (hash === nodes.merge) return state.merged[scope.set.id]?.key === hash;
  return state.made[hash] !== undefined || scope.made[hash] !== undefined;
}

/** Whether every set of a project is merged as it asks, and every thing cut out. */
export function allMade(state: BenchState, project: Project): boolean {
  const merged = scopesOf(project).every(
    (scope) => !referenceOf(scope) || state.merged[scope.set.id]?.key === setGraph(scope).merge,
  );
  return merged && allCut(state, project) && allStand(state, project) && allRepaired(state, project);
}
