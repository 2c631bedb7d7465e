import { frameFindings } from '@/core/capture/frameFindings';
import { Problem, problemSentence } from '@/core/proof/problem';
import { type WorkerPool } from '@/engine/workerPool';
import { frameTaker, TAB_BUDGET } from '@/store/memory';
import { loadFrame, type LoadedFrame, measuredFrame, measureFrames, proposeSet } from './loadFrames';
import { type InspectCommand } from './readArguments';

/** The proposed set and the facts and findings of every frame, as the JSON text of the contract. */
export async function inspectCommand(pool: WorkerPool, { files }: InspectCommand): Promise<string> {
  const take = frameTaker(pool, TAB_BUDGET, files.length);
  const loaded = await Promise.all(
    files.map((file) =>
      loadFrame(pool, file, take).catch((thrown: unknown) => ({
        file,
        why: problemSentence(thrown, `Reading “${file}”`),
      })),
    ),
  );
  const frames = loaded.filter((f): f is LoadedFrame => 'levels' in f);
  if (frames.length === 0) throw new Problem(loaded.map((f) => ('why' in f ? f.why : '')).join(' '));
  const { stops, set } = await proposeSet(pool, frames);
  const unreadable = loaded.length - frames.length;
  const indexOf = (i: number): number => loaded.indexOf(frames[i]);
  const measured = (i: number) => measuredFrame(frames[i], stops[i]);
  const setMeasures = await measureFrames(pool, frames, stops, set.reference);
  const report = {
    set: {
      kind: set.kind,
      order: set.order.map(indexOf),
      reference: indexOf(set.reference),
      ...(set.places ? { places: set.places.map((p) => p.map(indexOf)) } : {}),
      why: set.why,
    },
    frames: loaded.map((f) => {
      if (!('levels' in f)) return { file: f.file, readable: false, why: f.why };
      const i = frames.indexOf(f);
      const { width, height } = f.levels[0];
      return {
        file: f.file,
        readable: true,
        width,
        height,
        depth: f.depth,
        facts: f.facts,
        ev: stops[i].stops - stops[set.reference].stops,
        evSource: stops[i].source,
        clipped: f.clipped,
        findings: frameFindings([measured(i)]),
        ...(set.strangers.includes(i)
          ? { why: 'it does not belong to the others: its size or its view differs' }
          : {}),
      };
    }),
    findings: frameFindings(
      frames.map((_, i) => measured(i)),
      unreadable,
      setMeasures,
      set.kind,
    ),
  };
  return JSON.stringify(report, undefined, 2);
}
