import { type Draft } from 'immer';
import { arrangeSet } from '@/core/capture/arrangeSet';
import { bracketOf } from '@/core/capture/bracketOf';
import { type ProposedSet } from '@/core/capture/recogniseSet';
import { KIND_NAMES } from '@/core/capture/setKind';
import { type FrameSet, type Project } from '@/core/recipe/project';
import { type Change, framesOf, setOf } from './drafts';

/** Proposes the reference anew from the frames in use, keeping one that the user chose. */
export function propose(draft: Draft<Project>, set: Draft<FrameSet>): void {
  const members = framesOf(draft, set);
  const used = members.filter((f) => f.used);
  const candidates = used.length > 0 ? used : members;
  if (candidates.length === 0) {
    set.reference = '';
    set.why = '';
    return;
  }
  // what is left of a set whose other frames went is no panorama and no swap any more
  if (members.length === 1 && !set.kindChosen) set.kind = 'bracket';
  const { kind } = set;
  const proposal = arrangeSet(
    kind,
    candidates.map((f) => ({ ...f, sharpness: f.measures.sharpness })),
  );
  const chosen = set.referenceChosen && candidates.some((f) => f.id === set.reference);
  if (!chosen) {
    set.referenceChosen = false;
    set.reference = candidates[proposal.reference].id;
  }
  keepReference(draft, set);
  if (chosen) set.why = 'You chose the reference.';
  else if (set.kindChosen) set.why = `Merged as a ${KIND_NAMES[kind]}, as you chose.`;
  else if (kind === 'bracket') set.why = bracketOf(candidates).why;
}

/** The others lie on the reference: it cannot be left out. */
export function keepReference(draft: Draft<Project>, { reference }: Draft<FrameSet>): void {
  const frame = draft.frames.find((f) => f.id === reference);
  if (frame) frame.used = true;
}

/** What was drawn on the picture's grid goes when that grid does. */
export function dropPlaces(draft: Draft<Project>): void {
  delete draft.geometry.crop;
  delete draft.printRegion;
  draft.geometry.straighten = {};
  draft.watchPoints = [];
}

/** Places hold only on the reference they were made on. */
export function dropPlacesIfMoved(draft: Draft<Project>, set: Draft<FrameSet>, before: string): void {
  if (set.reference === before) return;
  delete set.region;
  set.movers = [];
  delete set.dabs;
  if (set.id === draft.base) dropPlaces(draft);
}

/** A change of one set, after which its reference is proposed anew. */
export function changeSet(id: string, change: (set: Draft<FrameSet>, draft: Draft<Project>) => void): Change {
  return (draft) => {
    const set = setOf(draft, id);
    if (!set) return;
    const before = set.reference;
    change(set, draft);
    propose(draft, set);
    dropPlacesIfMoved(draft, set, before);
  };
}

/** What the frames of a set, by their ids, are proposed to be. */
export interface Proposal {
  readonly set: ProposedSet;
  /** the frames that the proposal's numbers mean */
  readonly of: readonly string[];
}

/** What frames of a set were found to be, put into it. @param arrived ids of those that just came */
export function takeProposal(
  draft: Draft<Project>,
  set: Draft<FrameSet>,
  { set: found, of }: Proposal,
  arrived: ReadonlySet<string>,
): void {
  if (set.kindChosen) return;
  const present = new Map(framesOf(draft, set).map((f) => [f.id, f]));
  set.kind = found.kind;
  set.why = found.why;
  set.views = (found.places ?? []).flatMap((place) => {
    const own = place.flatMap((i) => present.get(of[i]) ?? []);
    if (own.length === 0) return [];
    const { reference } = arrangeSet('bracket', own);
    return [{ head: own[reference].id, frames: own.map((f) => f.id) }];
  });
  // what came in this drop and does not belong stays, unused
  for (const i of found.strangers) {
    const stranger = present.get(of[i]);
    if (stranger && arrived.has(stranger.id)) stranger.used = false;
  }
}
