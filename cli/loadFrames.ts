import { readFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { type ProposedSet, type SetCandidate } from '@/core/capture/recogniseSet';
import { type MeasuredFrame } from '@/core/capture/measuredFrame';
import { type SetMeasures } from '@/core/capture/setMeasures';
import { type FrameStops } from '@/core/capture/stopsOfSet';
import { Problem, problemSentence } from '@/core/proof/problem';
import { type DecodedFrame, type FrameReadings } from '@/engine/tasks';
import { type WorkerPool } from '@/engine/workerPool';
import { frameTaker, TAB_BUDGET } from '@/store/memory';

export interface LoadedFrame extends DecodedFrame, FrameReadings {
  readonly file: string;
  /** size of the file */
  readonly bytes: number;
}

/**
 * Reads and decodes one file; the sentence names it when that fails.
 * @param take decodes it
 */
export async function loadFrame(
  pool: WorkerPool,
  file: string,
  take = frameTaker(pool, TAB_BUDGET, 1),
): Promise<LoadedFrame> {
  let size = 0;
  const read = async (): Promise<Uint8Array<ArrayBuffer>> => {
    const bytes = await readFile(file).catch(() => {
      throw new Unopened(`“${file}” cannot be opened. Check the name and whether it may be read.`);
    });
    size = bytes.byteLength;
    // small files share one buffer, which cannot be given away
    return bytes.byteLength === bytes.buffer.byteLength
      ? new Uint8Array(bytes.buffer)
      : new Uint8Array(bytes);
  };
  const taken = await take(basename(file), read).catch((thrown: unknown) => {
    if (thrown instanceof Unopened) throw thrown;
    throw new Unreadable(problemSentence(thrown, `Reading “${file}”`));
  });
  return { ...taken.frame, ...(await taken.readings()), file, bytes: size };
}

/** A file that is not there. */
class Unopened extends Problem {}

/** A file that is there and cannot be decoded: the others go on without it. */
export class Unreadable extends Problem {}

/** A file that was left out, and the sentence why. */
export interface LeftOut {
  readonly file: string;
  readonly why: string;
}

/**
 * Reads and decodes all files, each as a frame or as the sentence why it is none.
 * @throws Problem when one is not there at all
 */
export async function loadFrames(
  pool: WorkerPool,
  files: readonly string[],
): Promise<(LoadedFrame | LeftOut)[]> {
  const take = frameTaker(pool, TAB_BUDGET, files.length);
  const settled = await Promise.allSettled(files.map((file) => loadFrame(pool, file, take)));
  return settled.map((s, i) => {
    if (s.status === 'fulfilled') return s.value;
    if (s.reason instanceof Unreadable) return { file: files[i], why: s.reason.message };
    throw s.reason;
  });
}

/** Decoded frames as the grouping sees them. */
export function candidatesOf(frames: readonly LoadedFrame[], stops: readonly FrameStops[]): SetCandidate[] {
  return frames.map(({ levels, clipped, facts, measures }, i) => ({
    width: levels[0].width,
    height: levels[0].height,
    stops: stops[i].stops,
    clipped,
    facts,
    levels,
    sharpness: measures.sharpness,
  }));
}

/** Exposure of every frame relative to the first. */
export function stopsOf(pool: WorkerPool, frames: readonly LoadedFrame[]): Promise<FrameStops[]> {
  const inputs = frames.map(({ levels, facts }) => ({ image: levels[levels.length - 1], facts }));
  return pool.run((tasks) => tasks.stops(inputs));
}

/** Exposures and the proposed set of decoded frames. */
export async function proposeSet(
  pool: WorkerPool,
  frames: readonly LoadedFrame[],
): Promise<{ stops: FrameStops[]; set: ProposedSet }> {
  const stops = await stopsOf(pool, frames);
  const candidates = candidatesOf(frames, stops);
  const set = await pool.run((tasks) => tasks.recognise(candidates));
  return { stops, set };
}

/** A decoded frame as the findings of a set see it. */
export function measuredFrame(frame: LoadedFrame, { stops, source }: FrameStops): MeasuredFrame {
  const { width, height } = frame.levels[0];
  const { clipped, facts, measures } = frame;
  return { name: basename(frame.file), width, height, stops, stopsSource: source, clipped, facts, measures };
}

/** The frames of a set measured against each other. */
export function measureFrames(
  pool: WorkerPool,
  frames: readonly LoadedFrame[],
  stops: readonly FrameStops[],
  reference: number,
): Promise<SetMeasures> {
  const levels = frames.map((f) => f.levels);
  const ev = stops.map((s) => s.stops);
  return pool.run((tasks) => tasks.measureSet(levels, ev, reference));
}
