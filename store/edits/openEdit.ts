import { type Edit } from '@/core/edits/edit';
import { findLayer } from '@/core/layers/layer';
import { type Project } from '@/core/recipe/project';
import { type BenchState } from '../benchState';
import { editsAt, type EditOwner } from './list';

const WHOLE: EditOwner = { kind: 'whole' };

type Where = Pick<BenchState, 'session' | 'history'>;

/** What edits are made to: at Layers the chosen layer, at Finish the whole, at Match what was chosen, or the whole where that is gone. */
export function targetOf({ session: { station, layer, target }, history: { project } }: Where): EditOwner {
  if (station === 'layers' && findLayer(project.layers, layer)) return { kind: 'layer', id: layer };
  return station === 'match' && isThere(target, project) ? target : WHOLE;
}

/** The edit whose line is open, at what is being changed. */
export function openEditOf(state: Where): Edit | undefined {
  const edits = editsAt(state.history.project, targetOf(state));
  const { edit } = state.session;
  return edits.find((e) => e.id === edit) ?? edits.find((e) => e.kind === edit);
}

function isThere(at: EditOwner, project: Project): boolean {
  if (at.kind === 'whole') return true;
  return at.kind === 'set'
    ? project.sets.some((s) => s.id === at.id)
    : findLayer(project.layers, at.id) !== undefined;
}
