import { applyPatches } from 'immer';
import { type Project } from '@/core/recipe/project';
import { type History } from './history';
import { DID_AGAIN, TOOK_BACK } from './log';

/**
 * Which lines of the record still stand: by a line's place, the place of its step among those that can be taken back. Lines of what was taken
 * back, computed or noted have none.
 */
export function stepsOfRecord({ project: { log }, past }: History): ReadonlyMap<number, number> {
  const steps = new Map<number, number>();
  // labels of what was taken back, to be skipped where it was done
  const takenBack: string[] = [];
  let step = past.length - 1;
  for (let line = log.length - 1; line >= 0 && step >= 0; line--) {
    const { text } = log[line];
    if (text.startsWith(TOOK_BACK)) {
      takenBack.push(text.slice(TOOK_BACK.length));
      continue;
    }
    const label = text.startsWith(DID_AGAIN) ? text.slice(DID_AGAIN.length) : text;
    if (takenBack.length > 0) {
      if (label === takenBack[takenBack.length - 1]) takenBack.pop();
    } else if (label === past[step].label) steps.set(line, step--);
  }
  return steps;
}

/** The recipe as it was after a step, set straight and cropped as now, so that both lie on each other; undefined where that is no earlier one. */
export function projectAfter({ project, past }: History, step: number): Project | undefined {
  if (!(step >= 0 && step < past.length - 1)) return undefined;
  const then = past
    .slice(step + 1)
    .reduceRight((later: Project, { backward }) => applyPatches(later, backward), project);
  return { ...then, geometry: project.geometry };
}
