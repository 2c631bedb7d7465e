import { readFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { Problem } from '@/core/proof/problem';
import { emptyProject, FIRST_SET } from '@/core/recipe/project';
import { type WorkerPool } from '@/engine/workerPool';
import { addFiles } from '@/store/addFiles';
import { type Change } from '@/store/edits/drafts';
import { setKindOfEdit } from '@/store/edits/list';
import { setReference } from '@/store/edits/frames';
import { setHeld, setHow, setKind, setMotion, setOther } from '@/store/edits/sets';
import { exportProject } from '@/store/deliver';
import { NATURAL } from '@/core/merge/radiance/toneMap';
import { type LoadedFrame } from './loadFrames';
import { projectBench, wholeBench } from './projectBench';
import { type MergeCommand } from './readArguments';
import { writeBytes } from './writeOutput';

/** Writes the project of what was merged, made as the bench makes it: frames, recipe, what was measured. */
export async function writeProject(
  pool: WorkerPool,
  command: MergeCommand,
  frames: readonly LoadedFrame[],
  reference: number,
  title: string,
): Promise<void> {
  const { project: file, kind, motion, region, method, projection } = command;
  if (file === undefined) return;
  const bench = projectBench(pool, emptyProject(crypto.randomUUID(), title, new Date().toISOString()));
  try {
    await addFiles(
      bench,
      frames.map((f) => ({
        name: basename(f.file),
        read: async () => new Uint8Array(await readFile(f.file)),
      })),
    );
    const { project } = bench.store.getState().history;
    const chosen = project.frames.find((f) => f.file === basename(frames[reference].file));
    const changes: readonly (Change | undefined)[] = [
      setKind(FIRST_SET, kind),
      chosen && setReference(chosen.id),
      motion === 'auto' ? undefined : setMotion(FIRST_SET, motion),
      region && setHeld(FIRST_SET, region),
      method === 'radiance' ? setHow(FIRST_SET, { method }) : undefined,
      method === 'radiance'
        ? setKindOfEdit({ kind: 'set', id: FIRST_SET }, 'toneMap', NATURAL, `${FIRST_SET}-toneMap`)
        : undefined,
      projection === 'auto' ? undefined : setOther(FIRST_SET, { projection }),
    ];
    bench.actions.edit('Merged on the command line', (draft) => {
      for (const change of changes) change?.(draft);
    });
    await wholeBench(bench, () => undefined, false);
    const packed = await exportProject(bench);
    if (!packed) throw new Problem(bench.store.getState().problems.join(' '));
    await writeBytes(file, packed.bytes);
  } finally {
    await bench.actions.close();
  }
}
