// Finishes the demo sets as demo/finishes.ts says, into demo/finished/: each project's recipe with its record, and a small picture of it.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { isWhole, projectBench, whenMade } from '@/cli/projectBench';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { outlineOf } from '@/core/ground/outline';
import { type Layer } from '@/core/layers/layer';
import { emptyProject } from '@/core/recipe/emptyProject';
import { type Frame } from '@/core/recipe/project';
import { EVERYWHERE } from '@/core/region/region';
import { FINISHES, type FinishStep, type PlateStep } from '@/demo/finishes';
import { nodePlatform } from '@/engine/nodePlatform';
import { nodePool } from '@/engine/nodePool';
import { type WorkerPool } from '@/engine/workerPool';
import { addFiles } from '@/store/addFiles';
import { type Bench } from '@/store/benchState';
import { finishedPicture } from '@/store/deliver';
import { setLayer, setPlace } from '@/store/edits/layers';
import { addEdit, type EditOwner, newEdit } from '@/store/edits/list';
import { turnSun } from '@/store/edits/stand';
import { makeBelong } from '@/store/makeBelong';
import { layGround } from '@/store/spaceFromLines';

const QUALITY = 82;
const say = (text: string): void => void process.stderr.write(`${text}\n`);

interface ShotSet {
  readonly id: string;
  readonly title: string;
  readonly files: readonly string[];
}

/** @param wanted ids of the sets; all when there are none */
export async function finishDemos(root: string, wanted: readonly string[]): Promise<void> {
  const manifest = readFileSync(`${root}demo/frames/manifest.json`, 'utf8');
  const { sets } = JSON.parse(manifest) as { sets: readonly ShotSet[] };
  mkdirSync(`${root}demo/finished`, { recursive: true });
  const pool = nodePool(new URL('./node.worker.mjs', import.meta.url));
  for (const set of sets) if (wanted.length === 0 || wanted.includes(set.id)) await finish(pool, root, set);
  pool.close();
}

/** Finishes one set. */
async function finish(pool: WorkerPool, root: string, { id, title, files }: ShotSet): Promise<void> {
  const name = `${title}, finished`;
  const bench = projectBench(pool, emptyProject(`demo-${id}-finished`, name, new Date().toISOString()));
  const read = (file: string): Promise<Uint8Array> =>
    Promise.resolve(new Uint8Array(readFileSync(`${root}demo/frames/${file}`)));
  await addFiles(
    bench,
    files.map((file) => ({ name: file, read: () => read(file) })),
  );
  await whenMade(bench, say, isWhole(false));
  for (const [i, step] of (FINISHES[id] ?? []).entries()) await take(bench, step, i);
  await whenMade(bench, say, isWhole(true));
  const { project } = bench.store.getState().history;
  // what was computed is computed again from the frames that are there
  writeFileSync(`${root}demo/finished/${id}.json`, `${JSON.stringify({ ...project, made: {} })}\n`);
  const small = await finishedPicture(bench, 255, 1);
  writeFileSync(
    `${root}demo/finished/${id}.jpg`,
    await encodeJpeg(small, QUALITY, nodePlatform().encodeJpeg),
  );
  say(`${name}: ${bench.store.getState().problems.join(' ') || 'done'}`);
  await bench.actions.close();
}

/** Takes one step on the bench. */
async function take(bench: Bench, taken: FinishStep, at: number): Promise<void> {
  const { edit } = bench.actions;
  switch (taken.does) {
    case 'edit': {
      const { says, kind, settings, where, of } = taken;
      const made = newEdit(`finish-${at}`, kind, settings as never);
      const region = where && { ...EVERYWHERE, id: `where-${at}`, ...where };
      const owner: EditOwner = of ? { kind: 'layer', id: plateOf(bench, of).layer.id } : { kind: 'whole' };
      return edit(says, addEdit(owner, region ? { ...made, where: region } : made));
    }
    case 'sun':
      return edit(taken.says, turnSun(taken.to));
    case 'hide': {
      const { layer } = plateOf(bench, taken.file);
      return edit(`${layer.name} hidden: it does not fit`, setLayer(layer.id, { shown: false }));
    }
    case 'stand':
      return stand(bench, taken);
  }
}

/** Puts a cut-out where it stands, and makes it belong. */
async function stand(bench: Bench, { file, foot, height }: PlateStep): Promise<void> {
  const { layer, frame } = plateOf(bench, file);
  const { decoded, history } = bench.store.getState();
  const outline = outlineOf(decoded[frame.hash].levels[0]);
  if (!outline) throw new Error(`${file} is all transparent`);
  // fractions of the picture's long edge for a pixel of the plate
  const scale = height / (outline.foot[1] - outline.top);
  const place = {
    x: foot[0] + scale * (frame.width / 2 - outline.foot[0]),
    y: foot[1] + scale * (frame.height / 2 - outline.foot[1]),
    size: scale * Math.max(frame.width, frame.height),
  };
  bench.actions.edit(`${layer.name} put where it stands`, setPlace(layer.id, place));
  if (!history.project.space) await layGround(bench);
  await whenMade(bench, say, isWhole(false));
  const belonged = await makeBelong(bench, layer.id);
  if ('why' in belonged) throw new Error(belonged.why);
}

/** The layer that shows a cut-out, and its file as a frame. */
function plateOf(bench: Bench, file: string): { layer: Layer; frame: Frame } {
  const { project } = bench.store.getState().history;
  const frame = project.frames.find((f) => f.file === file);
  const layer = project.layers.find(
    (l) => l.kind === 'picture' && l.source.kind === 'plate' && l.source.frame === frame?.id,
  );
  if (!frame || !layer) throw new Error(`no layer shows ${file}`);
  return { layer, frame };
}
