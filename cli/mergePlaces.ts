import { arrangeSet } from '@/core/capture/arrangeSet';
import { type FrameStops } from '@/core/capture/stopsOfSet';
import { PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { type Matrix3 } from '@/core/raster/matrix3';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { fitSet, type SetFit } from '@/engine/fitSet';
import { mergeView, throughView } from '@/engine/mergeView';
import { type WorkerPool } from '@/engine/workerPool';
import { candidatesOf, type LoadedFrame } from './loadFrames';
import { mergeBySet, type MergedSet } from './mergeBySet';
import { type MergeCommand } from './readArguments';

/**
 * A panorama of brackets: the frames of each view are fitted and merged first, then the merged views are joined.
 * @returns undefined when the frames are not bracketed
 */
export async function mergePlaces(
  pool: WorkerPool,
  command: MergeCommand,
  {
    frames,
    stops,
    reference,
    progress,
  }: {
    readonly frames: readonly LoadedFrame[];
    readonly stops: readonly FrameStops[];
    readonly reference: number;
    readonly progress: (text: string) => void;
  },
): Promise<{ fit: SetFit; result: MergedSet } | undefined> {
  const values = stops.map((s) => s.stops);
  // cheap to rule out: a panorama of one exposure is not bracketed
  if (command.kind !== 'panorama' || Math.max(...values) - Math.min(...values) < 0.5) return undefined;
  const candidates = candidatesOf(frames, stops);
  const { places } = await pool.run((tasks) => tasks.recognise(candidates));
  if (!places || places.length < 2) return undefined;
  progress(`merging the brackets of ${places.length} views`);
  const registrations: Registration[] = frames.map(() => referenceRegistration());
  const heads: number[] = [];
  const views: LoadedFrame[] = [];
  for (const place of places) {
    const own = arrangeSet(
      'bracket',
      place.map((i) => candidates[i]),
    );
    const head = place.includes(reference) ? place.indexOf(reference) : own.reference;
    const inputs = place.map((i) => ({ image: frames[i].levels[0], stops: stops[i].stops }));
    const view = await mergeView(pool, inputs, head, PAPER_MEASURES);
    view.registrations.forEach((fit, k) => (registrations[place[k]] = fit));
    heads.push(place[head]);
    views.push({ ...frames[place[head]], levels: view.levels });
  }
  const viewStops = views.map((): FrameStops => ({ stops: 0, source: 'measured' }));
  const order = views.map((_, k) => k);
  const first = Math.max(0, heads.indexOf(reference));
  const joined = await fitSet(
    pool,
    'panorama',
    views.map(({ levels, facts }) => ({ levels, facts, stops: 0 })),
    order,
    first,
    command,
  );
  const result = await mergeBySet(pool, command, {
    frames: views,
    stops: viewStops,
    fit: joined,
    order,
    reference: first,
    progress,
  });
  const rotations: (Matrix3 | null)[] = frames.map(() => null);
  places.forEach((place, k) =>
    place.forEach((i) => {
      const view = joined.registrations[k];
      registrations[i] = throughView(view, registrations[i]);
      rotations[i] = registrations[i].fitted ? (joined.panorama?.rotations[k] ?? null) : null;
    }),
  );
  const { panorama } = joined;
  return { fit: { registrations, ...(panorama ? { panorama: { ...panorama, rotations } } : {}) }, result };
}
