import { describe, expect, test } from '@jest/globals';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { inlinePool } from '@/tests/inlinePool';
import { inStrips } from './inStrips';
import { frameReader } from './frameReader';
import { withWhole } from './wholeFrames';
import { type WorkerPool } from './workerPool';

/** A frame of 60 MB whose pixels are away: two of them are whole at a time, and the third takes the memory of one. */
const [WIDTH, HEIGHT] = [5000, 4000];
const frame = (away: string, width = WIDTH, height = HEIGHT): EncodedImage => ({
  ...{ width, height, white: 255, data: new Uint8Array(0), away },
});

/** A reader that notes what it reads, and writes the name's first letter into the first byte. */
function noting(size = 2, mostRows = 1e6) {
  const read: string[] = [];
  const frames = frameReader(size, mostRows, async (name, into) => {
    read.push(name);
    await Promise.resolve();
    if (name === 'gone') throw new Error('gone');
    into.data.fill(name.charCodeAt(0), 0, into.data.length);
  });
  const pool: WorkerPool = { ...inlinePool(2), frames };
  return { read, frames, pool };
}

describe('frames that are read again', () => {
  test('are read once for all who ask, and their memory is used again once nobody does', async () => {
    const { read, frames } = noting();
    const [a, same] = await Promise.all([frames.acquire(frame('a')), frames.acquire(frame('a'))]);
    expect(a.image).toBe(same.image);
    expect([a.image.away, a.image.data[0]]).toEqual([undefined, 97]);
    const b = await frames.acquire(frame('b'));
    a.release();
    const c = await frames.acquire(frame('c'));
    // one still looks at it
    expect(c.image.data.buffer).not.toBe(a.image.data.buffer);
    expect(a.image.data[0]).toBe(97);
    same.release();
    const d = await frames.acquire(frame('d'));
    expect(d.image.data.buffer).toBe(a.image.data.buffer);
    for (const { release } of [b, c, d]) release();
    // what was used last is still there
    (await frames.acquire(frame('d'))).release();
    expect(read).toEqual(['a', 'b', 'c', 'd']);
  });

  test('one that cannot be read is asked for again the next time', async () => {
    const { read, frames } = noting();
    await expect(frames.acquire(frame('gone', 4, 4))).rejects.toThrow('gone');
    await expect(frames.acquire(frame('gone', 4, 4))).rejects.toThrow('gone');
    expect(read).toEqual(['gone', 'gone']);
  });

  test('are worked on as few at a time as there are workers; what is at hand waits for nothing', async () => {
    const { pool } = noting(2);
    let [now, most] = [0, 0];
    const work = async (images: readonly EncodedImage[]): Promise<string> => {
      most = Math.max(most, ++now);
      await new Promise((done) => setTimeout(done, 5));
      now--;
      return String.fromCharCode(images[0].data[0]);
    };
    const names = ['p', 'q', 'r', 's', 't'];
    const seen = await Promise.all(names.map((name) => withWhole(pool, [frame(name, 8, 8)], work)));
    expect(seen).toEqual(names);
    expect(most).toBe(2);
    const here = { ...frame('', 2, 2), away: undefined, data: new Uint8Array(12).fill(104) };
    expect(await withWhole({ ...pool, frames: undefined }, [here], work)).toBe('h');
    await expect(withWhole({ ...pool, frames: undefined }, [frame('u', 2, 2)], work)).rejects.toThrow(
      'cannot be read again',
    );
  });
});

describe('strips', () => {
  const bands = [0, 1, 2, 3, 4, 5].map((k) => ({ top: 10 * k, rows: 10 }));
  const here: EncodedImage = { width: 20, height: 60, white: 255, data: new Uint8Array(3600) };

  test('each band finds the rows that it reaches, of as many bands as fit into memory', async () => {
    // rows of two bands and what lies about them: 24 of 60, 20 pixels wide, three channels
    const { read, pool } = noting(2, 24 * 20 * 3);
    const seen: string[] = [];
    let done = 0;
    await inStrips(
      pool,
      [frame('x', 20, 60), here],
      bands,
      (_, { top }, [far, near]) => {
        const first = far.firstRow ?? 0;
        seen.push(`${top}: ${first} to ${first + far.data.length / 60}`);
        expect(far.data[0]).toBe(120);
        expect(near).toBe(here);
        return Promise.resolve();
      },
      {
        halves: () => undefined,
        onPart: (share) => (done += share),
        reached: (f, { top, rows }) =>
          f === 0 ? [Math.max(0, top - 2), Math.min(60, top + rows + 2)] : [0, 60],
      },
    );
    expect(seen).toEqual([
      ...['0: 0 to 22', '10: 0 to 22', '20: 18 to 42', '30: 18 to 42', '40: 38 to 60', '50: 38 to 60'],
    ]);
    expect(read).toEqual(['x', 'x', 'x']);
    expect(done).toBeCloseTo(1, 9);
  });

  test('with all frames at hand nothing is read, and a band that reaches nothing of a frame reads none of it', async () => {
    const { read, pool } = noting();
    let runs = 0;
    const run = (): Promise<void> => Promise.resolve(void runs++);
    const options = { halves: () => undefined, reached: () => undefined };
    await inStrips(pool, [here], bands, run, options);
    await inStrips(pool, [frame('y', 20, 60)], bands, run, options);
    expect([runs, read]).toEqual([12, []]);
  });
});
