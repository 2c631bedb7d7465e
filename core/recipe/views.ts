import { type Frame, type SetScope } from './project';

/** A view in force: its frames in use, merged before the views are joined. */
export interface View {
  readonly head: Frame;
  readonly frames: readonly Frame[];
}

type SetFrames = Pick<SetScope, 'frames' | 'set'>;

/** The views whose brackets are merged first; none in a set of another kind, or when all frames are joined as they are. */
export function viewsOf({ frames, set }: SetFrames): View[] {
  if (set.kind !== 'panorama' || set.other.views === 'apart') return [];
  const used = new Map(frames.flatMap((f) => (f.used ? [[f.id, f] as const] : [])));
  return set.views.flatMap((view) => {
    const own = view.frames.flatMap((id) => used.get(id) ?? []);
    if (own.length < 2) return [];
    // the reference of the set stands for its own view
    const head = own.find((f) => f.id === set.reference) ?? own.find((f) => f.id === view.head) ?? own[0];
    return [{ head, frames: own }];
  });
}

/** Frame id → the frame that stands for it: the head of its view, or itself. */
export function standIns(scope: SetFrames): (id: string) => string {
  const heads = new Map(viewsOf(scope).flatMap(({ head, frames }) => frames.map((f) => [f.id, head.id])));
  return (id) => heads.get(id) ?? id;
}
