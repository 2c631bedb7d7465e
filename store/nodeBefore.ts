import { type Edit } from '@/core/edits/edit';
import { RANKS } from '@/core/edits/rank';
import { EDIT_KINDS, type EditKindName } from '@/core/edits/editKinds';
import { changes, ranked } from '@/core/edits/ranked';
import { type CompiledPicture } from '@/core/graph/compiledPicture';
import { type Project } from '@/core/recipe/project';
import { type EditOwner, editsAt } from './edits/list';

/** The node that the first edit at a place would find. */
export function nodeBefore(compiled: CompiledPicture, at: EditOwner): string {
  if (at.kind === 'layer') return compiled.layers.find((l) => l.id === at.id)?.plain ?? compiled.result;
  return at.kind === 'set' ? compiled.base : compiled.result;
}

/** The node that an edit of a kind finds at a place, or would find if there were one. */
export function nodeForEdit(
  project: Project,
  compiled: CompiledPicture,
  at: EditOwner,
  kind: EditKindName,
): string {
  const made = ranked(editsAt(project, at)).filter(changes);
  const own = made.find((e) => e.kind === kind);
  const found = own && compiled.edits.get(own.id)?.before;
  if (found !== undefined) return found;
  const rank = (e: Edit): number => RANKS.indexOf(e.rank ?? EDIT_KINDS[e.kind].rank);
  const earlier = made.filter((e) => rank(e) <= RANKS.indexOf(EDIT_KINDS[kind].rank)).at(-1);
  return (earlier && compiled.edits.get(earlier.id)?.after) ?? firstNode(project, compiled, at);
}

/** What the first edit finds: of the whole the picture before all of its edits. */
function firstNode(project: Project, compiled: CompiledPicture, at: EditOwner): string {
  if (at.kind !== 'whole') return nodeBefore(compiled, at);
  const first = ranked(project.edits).find((e) => compiled.edits.has(e.id));
  return (first && compiled.edits.get(first.id)?.before) ?? compiled.result;
}
