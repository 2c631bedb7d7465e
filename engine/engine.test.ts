import { describe, expect, test } from '@jest/globals';
import { exposureFusion } from '@/core/merge/exposureFusion';
import { PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { Problem } from '@/core/proof/problem';
import { encodedGain } from '@/core/raster/encodedGain';
import { IDENTITY, translation } from '@/core/raster/matrix3';
import { inlinePool } from '@/tests/inlinePool';
import { flat, paint, waves } from '@/tests/paint';
import { fitFrames } from './fitFrames';
import { mergeFrames } from './mergeFrames';
import { renderPicture } from './renderPicture';
import { imageLevels } from './tasks';
import { isCancelled, type Lane, workerPool } from './workerPool';
import { type Project } from '@/core/recipe/project';
import { sceneOf, sizedProject } from '@/tests/sampleScene';

type Deferred = { promise: Promise<unknown>; resolve: (v?: unknown) => void; reject: (e: Error) => void };
function deferred(): Deferred {
  let resolve: Deferred['resolve'] = () => undefined;
  let reject: Deferred['reject'] = () => undefined;
  const promise = new Promise((a, b) => ([resolve, reject] = [a, b]));
  return { promise, resolve, reject };
}

/** Lanes without threads; `deaths[k]` kills lane k. */
function lanes(): { make: () => Lane; deaths: Deferred[]; ended: number[] } {
  const deaths: Deferred[] = [];
  const ended: number[] = [];
  const make = (): Lane => {
    const death = deferred();
    death.promise.catch(() => undefined);
    const index = deaths.push(death) - 1;
    return {
      tasks: { index } as unknown as Lane['tasks'],
      died: death.promise as Promise<never>,
      end: () => void ended.push(index),
    };
  };
  return { make, deaths, ended };
}
const soon = () => new Promise((r) => setTimeout(r, 5));

describe('worker pool', () => {
  test('at rest the idle workers go, the busy one stays, and the next job gets a new one', async () => {
    const { make, deaths, ended } = lanes();
    const pool = workerPool(2, make);
    const long = deferred();
    const busy = pool.run(() => long.promise);
    await pool.run(() => Promise.resolve());
    await soon();
    expect(deaths).toHaveLength(2);
    pool.rest();
    expect(ended).toEqual([1]);
    long.resolve('done');
    expect(await busy).toBe('done');
    await Promise.all([pool.run(soon), pool.run(soon)]);
    expect(deaths).toHaveLength(3);
  });

  test('woken, it has its workers before the first job, and makes no others', async () => {
    const { make, deaths } = lanes();
    const pool = workerPool(2, make);
    expect(deaths).toHaveLength(0);
    pool.wake();
    expect(deaths).toHaveLength(2);
    await Promise.all([pool.run(soon), pool.run(soon)]);
    pool.wake();
    expect(deaths).toHaveLength(2);
  });

  test('never runs more jobs at once than it has workers, and makes workers only when needed', async () => {
    const { make, deaths } = lanes();
    const pool = workerPool(2, make);
    let running = 0;
    let most = 0;
    await Promise.all(
      Array.from({ length: 7 }, () =>
        pool.run(async () => {
          most = Math.max(most, ++running);
          await soon();
          running--;
        }),
      ),
    );
    expect(most).toBe(2);
    expect(deaths).toHaveLength(2);
  });

  test('more urgent jobs go first, equals in order', async () => {
    const pool = workerPool(1, lanes().make);
    const gate = deferred();
    const order: string[] = [];
    const job = (name: string, priority: number) =>
      pool.run(async () => Promise.resolve(void order.push(name)), { priority });
    const first = pool.run(() => gate.promise);
    const rest = [job('a', 0), job('b', 0), job('urgent', 5)];
    gate.resolve();
    await Promise.all([first, ...rest]);
    expect(order).toEqual(['urgent', 'a', 'b']);
  });

  test('of equals, a worker takes kin of what it did last, else what no other has begun', async () => {
    const { make } = lanes();
    const pool = workerPool(2, make);
    const done: string[] = [];
    const job = (kin: string, priority = 0) =>
      pool.run(
        async (tasks) => {
          await soon();
          done.push(`${(tasks as unknown as { index: number }).index}${kin}`);
        },
        { kin, priority },
      );
    await Promise.all([job('a'), job('a'), job('b'), job('b'), job('c'), job('b', 1)]);
    const kinOf = (index: number): string[] => done.filter((d) => d.startsWith(`${index}`)).map((d) => d[1]);
    expect([...kinOf(0), ...kinOf(1)].sort()).toEqual(['a', 'a', 'b', 'b', 'b', 'c']);
    // the urgent one first, whatever its kin
    expect(done.slice(0, 2)).toEqual(['0b', '1a']);
    expect(kinOf(0).slice(0, 3)).toEqual(['b', 'b', 'b']);
    expect(kinOf(1).slice(0, 2)).toEqual(['a', 'a']);
  });

  test('a job that comes alone goes to the idle worker that has done its kin', async () => {
    const { make } = lanes();
    const pool = workerPool(2, make);
    const job = (kin: string) =>
      pool.run(async (tasks) => (await soon(), (tasks as unknown as { index: number }).index), {
        ...{ kin, atOnce: true },
      });
    expect(await Promise.all([job('a'), job('b')])).toEqual([0, 1]);
    expect([await job('b'), await job('a'), await job('b')]).toEqual([1, 0, 1]);
  });

  test('what is wanted at once is asked of a worker before anything else goes on', () => {
    const pool = workerPool(1, lanes().make);
    let asked = false;
    void pool.run(
      async () => {
        asked = true;
        await soon();
      },
      { atOnce: true },
    );
    expect(asked).toBe(true);
  });

  test('a job cancelled while it waits never runs; one that runs is left unseen', async () => {
    const pool = workerPool(1, lanes().make);
    const gate = deferred();
    const controller = new AbortController();
    let ran = false;
    const running = pool.run(() => gate.promise, { signal: controller.signal });
    const waiting = pool.run(async () => Promise.resolve((ran = true)), { signal: controller.signal });
    controller.abort();
    const thrown = await Promise.all([running, waiting].map((p) => p.catch((e: unknown) => e)));
    expect(thrown.every(isCancelled)).toBe(true);
    gate.resolve();
    await soon();
    expect(ran).toBe(false);
    expect(await pool.run(() => Promise.resolve(3))).toBe(3);
    await expect(pool.run(() => Promise.resolve(1), { signal: controller.signal })).rejects.toThrow(
      'cancelled',
    );
  });

  test('a worker that dies is replaced and its job done again', async () => {
    const { make, deaths, ended } = lanes();
    const pool = workerPool(1, make);
    let tries = 0;
    const result = pool.run(() => (++tries === 1 ? new Promise(() => undefined) : Promise.resolve('done')));
    await soon();
    deaths[0].reject(new Error('out of memory'));
    expect(await result).toBe('done');
    expect([tries, deaths.length, ended]).toEqual([2, 2, [0]]);
  });

  test('dying twice on one job ends as a sentence, and the pool goes on', async () => {
    const { make, deaths } = lanes();
    const pool = workerPool(1, make);
    const result = pool.run(() => new Promise(() => undefined)).catch((e: unknown) => e);
    for (let k = 0; k < 2; k++) {
      await soon();
      deaths[k].reject(new Error('gone'));
    }
    expect(await result).toBeInstanceOf(Problem);
    expect(await pool.run(() => Promise.resolve('next'))).toBe('next');
  });

  test('an error of the job itself is passed on without a second try', async () => {
    const pool = workerPool(1, lanes().make);
    let tries = 0;
    await expect(pool.run(() => Promise.reject(new Problem(`no ${++tries}`)))).rejects.toThrow('no 1');
    expect(tries).toBe(1);
  });

  test('closing ends every worker', async () => {
    const { make, ended } = lanes();
    const pool = workerPool(2, make);
    await Promise.all([pool.run(soon), pool.run(soon)]);
    pool.close();
    expect(ended).toEqual([0, 1]);
  });
});

const texture = waves(12, 30);
const shot = (stops: number, dx = 0) => {
  const brighten = encodedGain(stops);
  return paint(420, 300, (x, y) => {
    const v = brighten(0.1 + 0.5 * texture(x + dx, y));
    return [v, v * 0.9, v * 0.8];
  });
};

describe('parallel work gives the pixels of the core alone', () => {
  const frames = [
    { image: shot(-1), matrix: IDENTITY, stops: -1 },
    { image: shot(1, 4), matrix: translation(-4, 0), stops: 1 },
  ];
  const movers = { reference: 0, choices: [] };

  test('exposure fusion, with progress up to the whole', async () => {
    const progress: number[] = [];
    const merged = await mergeFrames(inlinePool(), frames, 420, 300, PAPER_MEASURES, movers, {
      onProgress: (d) => progress.push(d),
    });
    const alone = exposureFusion(frames, 420, 300);
    expect(merged.image.data).toEqual(alone.image.data);
    expect(merged.shares[1]).toEqual(alone.shares[1]);
    expect(progress[progress.length - 1]).toBeCloseTo(1, 9);
    progress.slice(1).forEach((p, i) => expect(p).toBeGreaterThan(progress[i]));
  });

  test('a merge can be cancelled', async () => {
    const controller = new AbortController();
    const merging = mergeFrames(inlinePool(), frames, 420, 300, PAPER_MEASURES, movers, {
      signal: controller.signal,
    });
    controller.abort();
    expect(isCancelled(await merging.catch((e: unknown) => e))).toBe(true);
  });

  test('the finished picture is cropped and exposed', async () => {
    const plain = sizedProject(120, 90);
    const edits: Project['edits'] = [
      { id: 'e', kind: 'exposure', settings: { stops: 1 }, amount: 1, on: true },
    ];
    const { picture } = sceneOf({ ...plain, edits }, { merge: flat(120, 90, 0.5, 65535) }).scene;
    if (!picture) throw new Error('no picture');
    const crop = { x: 10, y: 5, width: 61, height: 40 };
    const done = await renderPicture(inlinePool(), picture, picture.finished, crop, 255);
    expect([done.width, done.height, done.white]).toEqual([61, 40, 255]);
    expect(done.data[100]).toBe(Math.round(255 * encodedGain(1)(0.5)));
    const small = await renderPicture(inlinePool(), picture, picture.finished, crop, 255, 1);
    expect([small.width, small.height]).toEqual([30, 20]);
  });

  test('fits run against the reference; one of another size is left out by its size', async () => {
    const inputs = [
      { image: shot(0), stops: 0 },
      { image: shot(0, 6), stops: 0 },
      { image: flat(200, 300, 0.5), stops: 0 },
    ];
    const fits = await fitFrames(inlinePool(), inputs, 0, { motion: 'auto' });
    expect(fits[0].matrix).toEqual(IDENTITY);
    expect(fits[1].matrix[2]).toBeCloseTo(-6, 1);
    expect(fits[2]).toMatchObject({
      fitted: false,
      why: expect.stringContaining('it is 200 × 300 pixels, the reference 420 × 300'),
    });
  });

  test('levels halve until the long edge is under 400 pixels', () =>
    expect(imageLevels(flat(1700, 900, 0)).map((l) => l.width)).toEqual([1700, 850, 425, 212]));
});

describe('a job that never comes back', () => {
  test('is ended with its worker after its time, by a sentence, and the next one runs', async () => {
    let ended = 0;
    const pool = workerPool(1, () => ({
      tasks: {} as Lane['tasks'],
      died: new Promise<never>(() => undefined),
      end: () => void ended++,
    }));
    const endless = pool.run(() => new Promise<never>(() => undefined), { limit: 30 });
    await expect(endless).rejects.toThrow(/took longer than .* seconds and was stopped/);
    expect(ended).toBe(1);
    expect(await pool.run(() => Promise.resolve(7))).toBe(7);
  });
});
