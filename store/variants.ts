import { EDIT_KINDS } from '@/core/edits/editKinds';
import { type Edit } from '@/core/edits/edit';
import { isLate } from '@/core/edits/ranked';
import { type Layer } from '@/core/layers/layer';
import { type MergeMethod, type Project } from '@/core/recipe/project';
import { type BeforeStep } from './session';

const toneMapOnly = (edits: readonly Edit[]): Edit[] => edits.filter((e) => e.kind === 'toneMap');

const withoutEdits = (layer: Layer): Layer =>
  layer.kind === 'group'
    ? { ...layer, edits: [], layers: layer.layers.map(withoutEdits) }
    : { ...layer, edits: [] };

/** A layer that lies in the picture as it came, with everything in it. */
const lifted = ({ stand: _, ...layer }: Layer): Layer =>
  layer.kind === 'group' ? { ...layer, layers: layer.layers.map(lifted) } : layer;

/** A recipe without the work of a step; what came later is left out too. The straightening stays, so that both lie on each other. */
export function withoutStep(project: Project, step: Exclude<BeforeStep, 'fit' | 'edit' | 'then'>): Project {
  if (step === 'finish')
    return { ...project, edits: project.edits.filter((e) => !isLate(e) && e.kind !== 'noise') };
  if (step === 'ground') return { ...withoutStep(project, 'finish'), layers: project.layers.map(lifted) };
  const plain: Project = {
    ...project,
    edits: [],
    sets: project.sets.map((s) => ({ ...s, edits: toneMapOnly(s.edits) })),
    layers: project.layers.map(withoutEdits),
  };
  if (step === 'match') return plain;
  const isBase = (l: Layer): boolean =>
    l.kind === 'picture' && l.source.kind === 'set' && l.source.set === project.base;
  return { ...plain, layers: plain.layers.filter(isBase) };
}

/** A recipe without one edit, wherever it is made. */
export const withoutEdit = (project: Project, id: string): Project =>
  withEdits(project, (edits) => (edits.some((e) => e.id === id) ? edits.filter((e) => e.id !== id) : edits));

/** A recipe with one match taken over whole, wherever it is made: what it is made like is seen as if it were there. */
export const inFull = (project: Project, id: string): Project =>
  withEdits(project, (edits) =>
    edits.some((e) => e.id === id)
      ? edits.map((e) =>
          e.id === id && e.kind === 'match'
            ? { ...e, on: true, amount: 1, settings: { ...e.settings, tone: 1, contrast: 1, colour: 1 } }
            : e,
        )
      : edits,
  );

/** A recipe with every list of edits put through a function. */
function withEdits(project: Project, left: (edits: readonly Edit[]) => readonly Edit[]): Project {
  const layer = (l: Layer): Layer =>
    l.kind === 'group'
      ? { ...l, edits: left(l.edits), layers: l.layers.map(layer) }
      : { ...l, edits: left(l.edits) };
  return {
    ...project,
    edits: left(project.edits),
    sets: project.sets.map((s) => {
      const edits = left(s.edits);
      return edits === s.edits ? s : { ...s, edits };
    }),
    layers: project.layers.map(layer),
  };
}

/** A recipe with one layer alone, as it lies; nothing else is shown. */
export function onlyLayer(project: Project, id: string): Project {
  const only = (layers: readonly Layer[]): Layer[] =>
    layers.flatMap((l): Layer[] => {
      if (l.id === id) return [{ ...l, shown: true }];
      const own = l.kind === 'group' ? only(l.layers) : [];
      return l.kind === 'group' && own.length > 0 ? [{ ...l, shown: true, layers: own }] : [];
    });
  const layers = only(project.layers);
  return layers.length > 0 ? { ...project, layers } : project;
}

/** A recipe with a set merged another way. */
export function mergedBy(project: Project, set: string, method: MergeMethod): Project {
  const toneMap = {
    id: `${set}-toneMap`,
    kind: 'toneMap',
    settings: EDIT_KINDS.toneMap.plain,
    amount: 1,
    on: true,
  } as const;
  return {
    ...project,
    sets: project.sets.map((s) =>
      s.id === set
        ? {
            ...s,
            method,
            edits:
              method === 'radiance' && !s.edits.some((e) => e.kind === 'toneMap')
                ? [...s.edits, toneMap]
                : s.edits,
          }
        : s,
    ),
  };
}
