import { baseScope, setScope } from '@/core/recipe/setFrames';
import { type Project, type SetScope } from '@/core/recipe/project';
import { type BenchState } from './benchState';

/** The set that is worked on: the chosen one, the picture's base otherwise. */
export function activeScope({
  history,
  session,
}: Pick<BenchState, 'history' | 'session'>): SetScope | undefined {
  return setScope(history.project, session.set) ?? baseScope(history.project);
}

/** The sets of a project, the base first: what the picture stands on is made first. */
export function scopesOf(project: Project): SetScope[] {
  const others = project.sets.filter((s) => s.id !== project.base).map((s) => s.id);
  return [project.base, ...others].flatMap((id) => setScope(project, id) ?? []);
}
