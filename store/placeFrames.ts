import { type SetCandidate } from '@/core/capture/recogniseSet';
import { KIND_NAMES } from '@/core/capture/setKind';
import { type FrameStops } from '@/core/capture/stopsOfSet';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Frame, type FrameSet, type Project } from '@/core/recipe/project';
import { setScope } from '@/core/recipe/setFrames';
import { type DecodedFrame } from '@/engine/tasks';
import { type Bench, type BenchState, type Destination } from './benchState';
import { type Change } from './edits/drafts';
import { type Proposal } from './edits/changeSet';
import { addPlates, addFrames, moveFrames, setStops } from './edits/frames';
import { addSet, laySet } from './edits/sets';

/** exposures that a project may hold, EV; what is measured of two black frames may lie beyond */
const MOST_STOPS = 40;

/** The smallest level of a frame: exposures are told from it. */
const smallest = ({ levels }: DecodedFrame): EncodedImage => levels[levels.length - 1];

/** Exposures of frames by their ids, on the scale of the first. */
export async function exposuresOf(
  { pool, store }: Pick<Bench, 'pool' | 'store'>,
  frames: readonly Frame[],
  signal: AbortSignal,
): Promise<ReadonlyMap<string, FrameStops>> {
  const { decoded } = store.getState();
  const inputs = frames.map((f) => ({ image: smallest(decoded[f.hash]), facts: f.facts }));
  const measured = await pool.run((tasks) => tasks.stops(inputs), { signal });
  const zero = frames[0]?.stops ?? 0;
  return new Map(
    frames.map((f, i) => {
      const stops = Math.min(MOST_STOPS, Math.max(-MOST_STOPS, zero + measured[i].stops));
      return [f.id, { stops, source: measured[i].source }];
    }),
  );
}

/** What frames together most likely are. */
export async function proposalFor(
  { pool, store }: Pick<Bench, 'pool' | 'store'>,
  frames: readonly Frame[],
  stops: ReadonlyMap<string, FrameStops>,
  signal: AbortSignal,
): Promise<Proposal> {
  const { decoded } = store.getState();
  const candidates = frames.map((f): SetCandidate => {
    const { levels } = decoded[f.hash];
    return { ...f, stops: stops.get(f.id)?.stops ?? f.stops, levels, sharpness: f.measures.sharpness };
  });
  const set = await pool.run((tasks) => tasks.recognise(candidates), { signal });
  return { set, of: frames.map((f) => f.id) };
}

/** Where new frames go, and what makes it so. */
export interface Placed {
  readonly destination: Destination;
  readonly why: string;
  readonly change: Change;
}

const ofSet = (project: Project, id: string): readonly Frame[] => setScope(project, id)?.frames ?? [];

/** Frames of a set whose pixels are at hand. */
function presentIn({ history, decoded }: BenchState, id: string): readonly Frame[] {
  return ofSet(history.project, id).filter((f) => decoded[f.hash]);
}

/** The name that a further set gets. */
const nextName = ({ sets }: Project): string => `Set ${sets.length + 1}`;

/**
 * Proposes where new frames go: into the set that is worked on when they belong there, into one of their own when they belong together, and
 * each by itself otherwise.
 */
export async function proposePlace(
  bench: Bench,
  set: FrameSet,
  joining: readonly Frame[],
  signal: AbortSignal,
): Promise<Placed> {
  const members = presentIn(bench.store.getState(), set.id);
  const all = [...members, ...joining];
  const stops = await exposuresOf(bench, all, signal);
  const proposal = await proposalFor(bench, all, stops, signal);
  const strangers = new Set(proposal.set.strangers.map((i) => proposal.of[i]));
  const strange = joining.filter((f) => strangers.has(f.id)).length;
  const into: Placed = {
    destination: { kind: 'set', id: set.id },
    why:
      members.length === 0
        ? proposal.set.why
        : `they show what “${set.name}” shows, and make a ${KIND_NAMES[proposal.set.kind]} with it`,
    change: addFrames(set.id, withStops(joining, stops), stops, proposal),
  };
  if (members.length === 0 || strange < joining.length) return into;
  if (joining.length > 1) {
    const own = await ownSet(bench, joining, signal);
    if (own.strangers === 0) return own.placed;
  }
  return {
    destination: { kind: 'plates' },
    why:
      joining.length === 1
        ? `it shows something else than “${set.name}”`
        : `they show something else than “${set.name}”, and each something else`,
    change: addPlates(joining),
  };
}

function withStops(frames: readonly Frame[], stops: ReadonlyMap<string, FrameStops>): Frame[] {
  return frames.map((f) => {
    const measured = stops.get(f.id);
    return measured ? { ...f, stops: measured.stops, stopsSource: measured.source } : f;
  });
}

async function ownSet(
  bench: Bench,
  frames: readonly Frame[],
  signal: AbortSignal,
): Promise<{ placed: Placed; strangers: number }> {
  const { project } = bench.store.getState().history;
  const stops = await exposuresOf(bench, frames, signal);
  const proposal = await proposalFor(bench, frames, stops, signal);
  const [id, layer] = [crypto.randomUUID(), crypto.randomUUID()];
  const name = nextName(project);
  return {
    strangers: proposal.set.strangers.length,
    placed: {
      destination: { kind: 'own' },
      why: `they show something else, and make a ${KIND_NAMES[proposal.set.kind]} by themselves`,
      change: (draft) => {
        addSet(id, name)(draft);
        addFrames(id, withStops(frames, stops), stops, proposal)(draft);
        laySet(id, layer)(draft);
      },
    },
  };
}

/** Moves frames that came elsewhere than was proposed. */
export async function replaceFrames(bench: Bench, ids: readonly string[], to: Destination): Promise<void> {
  const { store, actions } = bench;
  const { project } = store.getState().history;
  const frames = project.frames.filter((f) => ids.includes(f.id));
  if (frames.length === 0) return;
  const names = frames.length === 1 ? `“${frames[0].file}”` : `${frames.length} frames`;
  if (to.kind === 'plates') {
    actions.edit(
      `${names} by ${frames.length === 1 ? 'itself' : 'themselves'}`,
      moveFrames(ids, { kind: 'plates' }),
    );
    return;
  }
  await actions.during('Measuring the frames', async (signal) => {
    const before = to.kind === 'set' ? ofSet(project, to.id).filter((f) => !ids.includes(f.id)) : [];
    const all = [...before, ...frames];
    const stops = await exposuresOf(bench, all, signal);
    const proposal = await proposalFor(bench, all, stops, signal);
    const [id, layer] = to.kind === 'set' ? [to.id, ''] : [crypto.randomUUID(), crypto.randomUUID()];
    const name = nextName(project);
    actions.edit(to.kind === 'set' ? `${names} into a set` : `${names} as a set of their own`, (draft) => {
      if (to.kind === 'own') addSet(id, name)(draft);
      moveFrames(ids, { kind: 'set', id }, proposal)(draft);
      setStops(stops)(draft);
      if (to.kind === 'own') laySet(id, layer)(draft);
    });
  });
}
