import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { randomSource } from '@/core/raster/random';
import { type Bench } from '@/store/benchState';
import { finishedPicture } from '@/store/deliver';
import { upToDate } from '@/store/stages/finishStage';
import { inlinePool } from './inlinePool';
import { randomChange } from './randomChange';
import { reopened, settled, type SmallProject, smallProject } from './smallProject';

const pool = inlinePool(2);
afterAll(() => pool.close());

/** tried in every run; more of them by hand */
const SEQUENCES = Number(process.env.SEQUENCES ?? 2);

let start: SmallProject;
beforeAll(async () => {
  start = await smallProject(pool);
  const { sets, layers, frames } = start.project;
  expect([sets.length, layers.length, frames.length]).toEqual([2, 3, 7]);
});

const pictureOf = (bench: Bench): Promise<EncodedImage> => finishedPicture(bench, 65535, 0);

/**
 * Any sequence of edits, undo, redo and reloads leads to the graph and the pixels of a project that is opened in that state and remembers
 * nothing: what was shown before, fitted before and made before has no say.
 */
test.each(Array.from({ length: SEQUENCES }, (_, k) => k + 1))(
  'a hundred steps there and back, %i: the graph and the pixels of a fresh project',
  async (seed) => {
    const random = randomSource(seed);
    let bench = await reopened(pool, start);
    const said: string[] = [];
    for (let k = 0; k < 100; k++) {
      const what = random();
      if (what < 0.12) bench.actions.undo();
      else if (what < 0.18) bench.actions.redo();
      else if (what < 0.2) {
        const { project } = bench.store.getState().history;
        await bench.actions.close();
        bench = await reopened(pool, { ...start, project });
      } else {
        const step = randomChange(bench.store.getState().history.project, random, `n${seed}-${k}`);
        bench.actions.edit(step.label, step.change);
        said.push(step.label);
      }
      // now and then what was asked for is made before the next step, mostly it is overtaken
      if (random() < 0.05) await settled(bench);
    }
    await settled(bench);
    const { project } = bench.store.getState().history;
    const fresh = await reopened(pool, { ...start, project: { ...project, made: {} } });
    await settled(fresh);
    const graphOf = (b: Bench) => {
      const state = b.store.getState();
      return upToDate(state, state.history.project)?.compiled.finished;
    };
    expect(graphOf(bench)).toBeDefined();
    expect({ said, graph: graphOf(fresh) }).toEqual({ said, graph: graphOf(bench) });
    const [a, b] = [await pictureOf(bench), await pictureOf(fresh)];
    expect([a.width, a.height]).toEqual([b.width, b.height]);
    expect(Buffer.compare(Buffer.from(a.data.buffer), Buffer.from(b.data.buffer))).toBe(0);
    await Promise.all([bench.actions.close(), fresh.actions.close()]);
  },
);
