'use client';
import { findLayer } from '@/core/layers/layer';
import { type EditOwner } from '@/store/edits/list';
import { useBench } from '../benchContext';

const WHOLE: EditOwner = { kind: 'whole' };

/** What edits are made to: at Layers the chosen layer, at Finish the whole, at Match what was chosen, or the whole where that is gone. */
export function useTarget(): EditOwner {
  const { station, layer, target } = useBench(({ session, history: { project } }) => ({
    station: session.station,
    layer: findLayer(project.layers, session.layer)?.id,
    target: isThere(session.target, project) ? session.target : WHOLE,
  }));
  if (station === 'layers' && layer !== undefined) return { kind: 'layer', id: layer };
  return station === 'match' ? target : WHOLE;
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
