import { type Project } from '@/core/recipe/project';

/** Everything the measures of a set depend on. */
export function measureKey(project: Project): string {
  const used = project.frames.filter((f) => f.used);
  return [project.set.reference, ...used.map((f) => `${f.hash}@${f.stops.toFixed(3)}`)].join('|');
}
