import { type MadeFact, type SetScope } from '@/core/recipe/project';
import { setScope } from '@/core/recipe/setFrames';
import { setGraph } from '@/core/recipe/setGraph';
import { scopesOf } from '../activeSet';
import { amend, type History } from '../history';

/** facts that no set asks for now, but a step back might */
const KEPT_BESIDE = 300;

/** Keeps what was measured with the recipe; of what nothing asks for any more only the latest. */
export function keepMade(history: History, facts: readonly (readonly [string, MadeFact])[]): History {
  return amend(history, (project) => {
    const made = { ...project.made, ...Object.fromEntries(facts) };
    const asked = new Set(scopesOf(project).flatMap((scope) => [...setGraph(scope).graph.keys()]));
    const beside = Object.keys(made).filter((hash) => !asked.has(hash));
    const forgotten = new Set(beside.slice(0, Math.max(0, beside.length - KEPT_BESIDE)));
    return {
      ...project,
      made: Object.fromEntries(Object.entries(made).filter(([hash]) => !forgotten.has(hash))),
    };
  });
}

/** A set as it is in another state of the project. */
export function scopeIn(history: History, scope: SetScope): SetScope {
  return setScope(history.project, scope.set.id) ?? scope;
}
