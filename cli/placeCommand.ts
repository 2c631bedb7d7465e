import { readFile } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import { type Belonging } from '@/core/ground/belong';
import { type GroundFacts, parseFacts } from '@/core/ground/facts';
import { Problem } from '@/core/proof/problem';
import { emptyProject, FIRST_SET } from '@/core/recipe/emptyProject';
import { type Project } from '@/core/recipe/project';
import { type WorkerPool } from '@/engine/workerPool';
import { joinProject } from '@/store/addFiles';
import { type Bench } from '@/store/benchState';
import { exportProject, finishedPicture } from '@/store/deliver';
import { setReference } from '@/store/edits/frames';
import { standPlate } from '@/store/edits/stand';
import { fileStem } from '@/store/fileStem';
import { type LoadedFrame, loadFrame } from './loadFrames';
import { isWhole, projectBench, rest, whenMade } from './projectBench';
import { progress, progressOf } from './progress';
import { type PlaceCommand } from './readArguments';
import { filesOf, loadedFile } from './setBench';
import { whiteOf, writeBytes, writeOutput } from './writeOutput';
import { stopwatch, writeReport } from './writeReport';

/** Stands a plate in a picture, in its light, with its shadow or mirror image, behind its air. */
export async function placeCommand(pool: WorkerPool, command: PlaceCommand): Promise<void> {
  const { picture: file, plate: plateFile, out, report, wish } = command;
  const watch = stopwatch();
  const facts = await factsOf(command.facts);
  progress(`reading ${file} and ${plateFile}`);
  const [picture, plate] = await Promise.all([loadFrame(pool, file), loadFrame(pool, plateFile)]);
  if (!plate.levels[0].alpha)
    throw new Problem(
      `“${plateFile}” has no opacity: nothing says what of it is the thing. Cut it out first: marsh cut “${plateFile}” --dabs DABS.json --out CUTOUT.png`,
    );
  if (plate.hash === picture.hash)
    throw new Problem(`“${plateFile}” is the picture itself. Name another plate.`);
  watch.lap('decode');
  progress('making it belong');
  const belonging = await pool.run((tasks) => tasks.belong(picture.levels[0], plate.levels, wish, facts));
  if (!belonging)
    throw new Problem(
      `“${plateFile}” cannot stand at ${wish.foot.join(', ')} of “${file}”: that lies above the horizon, or nothing of the plate is there. Give a foot on the ground, or the right horizonRow.`,
    );
  const bench = await placeBench(pool, command, picture, plate, belonging);
  try {
    await whenMade(bench, progress, isWhole(false));
    rest(bench);
    watch.lap('make');
    const image = await finishedPicture(bench, whiteOf(out), 0, { onProgress: progressOf('drawing') });
    watch.lap('draw');
    const { title } = bench.store.getState().history.project;
    await writeOutput(pool, image, out, { facts: picture.facts, title, disclosed: false });
    if (command.project) {
      const packed = await exportProject(bench);
      if (!packed) throw new Problem(bench.store.getState().problems.join(' '));
      await writeBytes(command.project, packed.bytes);
    }
    watch.lap('encode');
    const { space, stand, place, stops, heightPx, metres, distance, told } = belonging;
    const content = {
      output: { file: out, width: image.width, height: image.height },
      ...{ heightPx, metres, distance, place, space, stand, facts: told },
      ...(stops === undefined ? {} : { stops }),
    };
    await writeReport(report, () => content, watch);
    progress(`wrote ${out}`);
  } finally {
    await bench.actions.close();
  }
}

async function factsOf(file: string | undefined): Promise<GroundFacts> {
  if (file === undefined) return {};
  const text = await readFile(file, 'utf8').catch(() => {
    throw new Problem(`“${file}” cannot be opened. Check the name and whether it may be read.`);
  });
  return parseFacts(text, file);
}

const plateLayer = ({ layers }: Project): string | undefined =>
  layers.find((l) => l.kind === 'picture' && l.source.kind === 'plate')?.id;

/** A picture and a plate on a bench of their own, the plate standing in it. */
async function placeBench(
  pool: WorkerPool,
  { out }: PlaceCommand,
  picture: LoadedFrame,
  plate: LoadedFrame,
  belonging: Belonging,
): Promise<Bench> {
  const title = fileStem(basename(out, extname(out)));
  const empty = emptyProject(crypto.randomUUID(), title, new Date().toISOString());
  const bench = projectBench(pool, { ...empty, edits: [] }, filesOf([picture, plate]));
  const { signal } = new AbortController();
  await joinProject(bench, [loadedFile(picture, true), loadedFile(plate, false)], signal, (draft) => {
    const [frame] = draft.frames;
    setReference(frame.id)(draft);
    draft.geometry.crop = { x: 0, y: 0, width: frame.width, height: frame.height };
  });
  const { project } = bench.store.getState().history;
  const layer = plateLayer(project);
  if (layer === undefined || project.base !== FIRST_SET) throw new Error('the plate is no layer');
  bench.actions.edit('Made it belong', standPlate(layer, belonging));
  return bench;
}
