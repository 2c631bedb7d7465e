import { type CompiledPicture } from '@/core/graph/compile';
import { type EditOwner } from '@/store/edits/list';

/** The node that the first edit at a place would find. */
export function nodeBefore(compiled: CompiledPicture, at: EditOwner): string {
  if (at.kind === 'layer') return compiled.layers.find((l) => l.id === at.id)?.plain ?? compiled.result;
  return at.kind === 'set' ? compiled.base : compiled.result;
}
