import { afterAll, describe, expect, test } from '@jest/globals';
import { decode } from 'fast-png';
import { readFileSync } from 'node:fs';
import { openProjectFile } from '@/core/codecs/openProjectFile';
import { inlinePool } from '@/tests/inlinePool';
import { restoreFrames } from './addFiles';
import { type Bench } from './benchState';
import { openBench } from './bench';
import { deliver } from './deliver';
import { originalsOf } from './keeping/originals';
import { START } from './session';

const FOLDER = new URL('../tests/projects/', import.meta.url);
const pool = inlinePool(2);
afterAll(() => pool.close());

/** Opens a project file on a bench of its own. */
async function opened(name: string): Promise<Bench> {
  const packed = new Blob([readFileSync(new URL(`${name}.marsh.zip`, FOLDER))]);
  const file = await openProjectFile(`${name}.marsh.zip`, packed);
  const { project } = await file.read();
  const kept = new Map<string, Uint8Array<ArrayBuffer>>();
  for (const frame of project.frames) kept.set(frame.hash, await file.original(frame));
  const originals = originalsOf({
    save: () => Promise.resolve(),
    load: (hash) => Promise.resolve(kept.get(hash)),
    has: () => Promise.resolve(true),
    remove: () => Promise.resolve(),
  });
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  const bench = openBench({ pool, stored, save: () => Promise.resolve(), originals });
  await restoreFrames(bench);
  return bench;
}

/** Delivers once everything is merged. */
async function delivered(bench: Bench): Promise<Uint16Array> {
  for (let k = 0; k < 400; k++) {
    const { merged, work, finished } = bench.store.getState();
    if (Object.keys(merged).length > 0 && !work && finished) break;
    await new Promise((done) => setTimeout(done, 25));
  }
  const file = await deliver(bench, { kind: 'png', quality: 92, disclosed: false });
  if (!file) throw new Error(bench.store.getState().problems.join(' '));
  return decode(file.bytes).data as Uint16Array;
}

/** How far two pictures are apart, codes of 255: at most, and on average; a border of so many pixels is left out. */
function apart(
  a: Uint16Array,
  b: Uint16Array,
  width: number,
  border: number,
): { most: number; mean: number } {
  const height = a.length / 3 / width;
  let [most, sum, count] = [0, 0, 0];
  for (let y = border; y < height - border; y++)
    for (let x = border * 3; x < (width - border) * 3; x++) {
      const d = Math.abs(a[y * width * 3 + x] - b[y * width * 3 + x]) / 257;
      most = Math.max(most, d);
      sum += d;
      count++;
    }
  return { most, mean: sum / count };
}

/**
 * What noise reduction and sharpening see around a place, pixels. Version 8 let them see black beyond the picture; now its edge goes on there,
 * so that no border is darkened or hardened: that near to it the pictures differ, and shall.
 */
const SURROUNDINGS = 16;

describe('projects of earlier versions open with the picture that version 8 delivered of them', () => {
  test.each(['1', '2', '3', '4', '5', '6', '7', '8', '8b'])(
    'version %s',
    async (version) => {
      const bench = await opened(`version-${version}`);
      const now = await delivered(bench);
      const { data, width } = decode(readFileSync(new URL(`version-${version}.png`, FOLDER)));
      expect(now.length).toBe(data.length);
      const { most, mean } = apart(now, data as Uint16Array, width, SURROUNDINGS);
      expect(most).toBeLessThanOrEqual(1);
      expect(mean).toBeLessThanOrEqual(0.05);
      if (Number(version) < 4) expect(apart(now, data as Uint16Array, width, 0).most).toBeLessThanOrEqual(1);
      await bench.actions.close();
    },
    60_000,
  );
});
