'use client';
import { findLayer } from '@/core/layers/layer';
import { type BenchState } from '@/store/benchState';
import { type EditOwner } from '@/store/edits/list';
import { useBench } from '../benchContext';

const WHOLE: EditOwner = { kind: 'whole' };

/** What edits are made to: at Layers the chosen layer, at Finish the whole, at Match what was chosen, or the whole where that is gone. */
export function targetOf({
  session: { station, layer, target },
  history: { project },
}: Pick<BenchState, 'session' | 'history'>): EditOwner {
  if (station === 'layers' && findLayer(project.layers, layer)) return { kind: 'layer', id: layer };
  return station === 'match' && isThere(target, project) ? target : WHOLE;
}

/** {@link targetOf}, followed. */
export function useTarget(): EditOwner {
  return useBench(targetOf);
}

function isThere(
  at: EditOwner,
  project: {
    readonly sets: readonly { readonly id: string }[];
    readonly layers: Parameters<typeof findLayer>[0];
  },
): boolean {
  if (at.kind === 'whole') return true;
  return at.kind === 'set'
    ? project.sets.some((s) => s.id === at.id)
    : findLayer(project.layers, at.id) !== undefined;
}
