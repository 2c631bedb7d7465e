import { readFile } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import { NATURAL } from '@/core/merge/radiance/toneMap';
import { emptyProject, FIRST_SET } from '@/core/recipe/emptyProject';
import { type WorkerPool } from '@/engine/workerPool';
import { joinProject, type LoadedFile } from '@/store/addFiles';
import { type Bench } from '@/store/benchState';
import { fileStem } from '@/store/fileStem';
import { type Change, setOf } from '@/store/edits/drafts';
import { setReference } from '@/store/edits/frames';
import { setKindOfEdit } from '@/store/edits/list';
import { setBent, setHeld, setHow, setKind, setMotion, setOther } from '@/store/edits/sets';
import { type Originals, originalsOf } from '@/store/keeping/originals';
import { type LoadedFrame } from './loadFrames';
import { projectBench } from './projectBench';
import { type MergeCommand } from './readArguments';

/**
 * Lays the frames of a set on a bench of their own, with the recipe that the command line asks for: merged by its kind, in the reference's
 * geometry, nothing done to the picture besides.
 */
export async function setBench(
  pool: WorkerPool,
  command: MergeCommand,
  frames: readonly LoadedFrame[],
  reference: LoadedFrame | undefined,
): Promise<Bench> {
  const title = fileStem(basename(command.out, extname(command.out)));
  const empty = emptyProject(crypto.randomUUID(), title, new Date().toISOString());
  const bench = projectBench(pool, { ...empty, edits: [] }, filesOf(frames));
  const loaded = frames.map((frame) => loadedFile(frame, true));
  const { signal } = new AbortController();
  await joinProject(bench, loaded, signal, recipe(command, reference));
  return bench;
}

/** A frame as a drop brings it. @param opaque what a cut-out does not show counts as it is, as it always did in a merge */
export function loadedFile(
  { file, clipped, measures, bytes, ...frame }: LoadedFrame,
  opaque: boolean,
): LoadedFile {
  const levels = opaque ? frame.levels.map(({ alpha: _, ...level }) => level) : frame.levels;
  return {
    file: { name: basename(file), read: () => bytesOf(file) },
    bytes,
    frame: { ...frame, levels },
    readings: { clipped, measures },
  };
}

/** What the command line asks for, as a change of the new project. */
const recipe =
  (command: MergeCommand, reference: LoadedFrame | undefined): Change =>
  (draft) => {
    const { kind, motion, region, bend, method, projection } = command;
    // all that was named takes part
    for (const frame of draft.frames) frame.used = true;
    setKind(FIRST_SET, kind)(draft);
    const chosen = draft.frames.find((f) => f.hash === reference?.hash);
    if (chosen) setReference(chosen.id)(draft);
    if (motion !== 'auto') setMotion(FIRST_SET, motion)(draft);
    if (region) setHeld(FIRST_SET, region)(draft);
    if (bend)
      setBent(
        FIRST_SET,
        draft.frames.map((f) => f.id),
      )(draft);
    if (projection !== 'auto') setOther(FIRST_SET, { projection })(draft);
    if (method === 'radiance') {
      const of = { kind: 'set', id: FIRST_SET } as const;
      setHow(FIRST_SET, { method })(draft);
      setKindOfEdit(of, 'toneMap', NATURAL, `${FIRST_SET}-toneMap`)(draft);
      const toned = setOf(draft, FIRST_SET)?.edits.find((e) => e.kind === 'toneMap');
      if (toned) toned.on = !keepsLight(command);
    }
    const set = setOf(draft, FIRST_SET);
    const own = draft.frames.find((f) => f.id === set?.reference);
    // a panorama has a grid of its own; everything else keeps the whole of its reference's
    if (own && kind !== 'panorama')
      draft.geometry.crop = { x: 0, y: 0, width: own.width, height: own.height };
  };

/** Whether the light of a radiance map is written as it is: unless a tone map is asked for, or the file has no room beyond white. */
export const keepsLight = ({ method, tone, float, out }: MergeCommand): boolean =>
  method === 'radiance' && !tone && (float || /\.exr$/i.test(out));

const bytesOf = async (file: string): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await readFile(file));

/** Originals that stay where they are: in their files. */
export function filesOf(frames: readonly LoadedFrame[]): Originals {
  const byHash = new Map(frames.map((f) => [f.hash, f.file]));
  return originalsOf({
    lasting: true,
    save: () => Promise.resolve(),
    load: async (hash) => {
      const file = byHash.get(hash);
      return file === undefined ? undefined : bytesOf(file);
    },
    has: (hash) => Promise.resolve(byHash.has(hash)),
    remove: () => Promise.resolve(),
  });
}
