import { describe, expect, test } from '@jest/globals';
import { type Lane, OutOfMemory, workerPool } from './workerPool';
import { halfHeight, halfRows, inBands, type Rows } from './inBands';

/** Workers that are told what they do, and can be ended from outside. */
function lanes() {
  const made: { ended: boolean; die: (why: string) => void }[] = [];
  const make = (): Lane => {
    const lane = { ended: false, die: (_: string): void => undefined };
    const died = new Promise<never>((_, reject) => (lane.die = (why) => reject(new Error(why))));
    died.catch(() => undefined);
    made.push(lane);
    return {
      tasks: { number: made.length } as unknown as Lane['tasks'],
      died,
      end: () => (lane.ended = true),
    };
  };
  return { made, make };
}

const numberOf = (tasks: Lane['tasks']): number => (tasks as unknown as { number: number }).number;
const never = <T>(): Promise<T> => new Promise<T>(() => undefined);
const soon = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));

describe('workers that do not come back', () => {
  test('one that ends in silence is noticed: another one does the job', async () => {
    const { made, make } = lanes();
    const pool = workerPool(1, make);
    const done = pool.run((tasks) =>
      numberOf(tasks) === 1 ? never<number>() : Promise.resolve(numberOf(tasks)),
    );
    await soon();
    made[0].die('the worker ended');
    expect(await done).toBe(2);
  });

  test('one that a cancelled job has hung is ended, at once where that was asked for', async () => {
    const { made, make } = lanes();
    const pool = workerPool(1, make);
    const controller = new AbortController();
    const hung = pool.run(() => never(), { signal: controller.signal, interrupt: true });
    await soon();
    controller.abort();
    await expect(hung).rejects.toMatchObject({ name: 'AbortError' });
    expect(await pool.run((tasks) => Promise.resolve(numberOf(tasks)))).toBe(2);
    expect(made.map((l) => l.ended)).toEqual([true, false]);
  });

  test('a job that takes too long is told so, and the next one has a worker', async () => {
    const { made, make } = lanes();
    const pool = workerPool(1, make);
    await expect(pool.run(() => never(), { limit: 20 })).rejects.toThrow('took longer than');
    expect(await pool.run((tasks) => Promise.resolve(numberOf(tasks)))).toBe(2);
    expect(made[0].ended).toBe(true);
  });

  test('want of memory is tried once more in a new worker, then told', async () => {
    const { make } = lanes();
    const pool = workerPool(1, make);
    const tried: number[] = [];
    const hungry = (tasks: Lane['tasks']): Promise<never> => {
      tried.push(numberOf(tasks));
      return Promise.reject(new RangeError('Array buffer allocation failed'));
    };
    await expect(pool.run(hungry)).rejects.toBeInstanceOf(OutOfMemory);
    expect(tried).toEqual([1, 2]);
    // a mistake of the code is none of memory's
    await expect(pool.run(() => Promise.reject(new RangeError('invalid date')))).rejects.toThrow(
      'invalid date',
    );
  });

  test('all are replaced when asked for, a busy one when it is done', async () => {
    const { made, make } = lanes();
    const pool = workerPool(2, make);
    let finish = (_: number): void => undefined;
    const busy = pool.run(() => new Promise<number>((resolve) => (finish = resolve)));
    pool.wake();
    await soon();
    pool.renew();
    expect(made.map((l) => l.ended)).toEqual([false, true]);
    finish(7);
    expect(await busy).toBe(7);
    await soon();
    expect(made[0].ended).toBe(true);
    expect(await pool.run((tasks) => Promise.resolve(numberOf(tasks)))).toBe(3);
  });
});

describe('a step in bands', () => {
  const bands: Rows[] = [
    { top: 0, rows: 64 },
    { top: 64, rows: 40 },
  ];

  /** Runs bands on workers that bear so many rows; gives the rows that were made. */
  async function made(most: number, unit: number): Promise<{ rows: number[]; share: number }> {
    const pool = workerPool(2, lanes().make);
    const rows: number[] = [];
    let share = 0;
    await inBands(
      pool,
      bands,
      (_, band) => {
        if (band.rows > most) return Promise.reject(new RangeError('Array buffer allocation failed'));
        for (let y = band.top; y < band.top + band.rows; y++) rows.push(y);
        return Promise.resolve();
      },
      { halves: halfRows(unit), onPart: (s) => (share += s) },
    );
    return { rows: rows.sort((a, b) => a - b), share };
  }

  test('what no worker has the memory for is made in halves; every row once', async () => {
    const { rows, share } = await made(16, 8);
    expect(rows).toEqual(Array.from({ length: 104 }, (_, y) => y));
    expect(share).toBeCloseTo(1, 9);
  });

  test('what cannot be halved any more is told', async () => {
    await expect(made(5, 8)).rejects.toBeInstanceOf(OutOfMemory);
  });

  test('halves meet at a multiple of what they must', () => {
    expect(halfRows(8)({ top: 16, rows: 20 })).toEqual([
      { top: 16, rows: 16 },
      { top: 32, rows: 4 },
    ]);
    expect(halfRows(8)({ top: 0, rows: 8 })).toBeUndefined();
    expect(halfHeight(32)({ x: 3, y: 64, width: 9, height: 65 })).toEqual([
      { x: 3, y: 64, width: 9, height: 64 },
      { x: 3, y: 128, width: 9, height: 1 },
    ]);
  });
});
