import { describe, expect, test } from '@jest/globals';
import { strToU8, zipSync } from 'fflate';
import { sampleProject } from '@/tests/sampleProject';
import { type Project } from '../recipe/project';
import { openProjectFile, type PackedFile } from './openProjectFile';
import { packProject } from './packProject';
import { sha256 } from './sha256';

/** The sample project with originals that are what it says. */
async function wholeProject(): Promise<{ project: Project; originals: Map<string, Uint8Array> }> {
  const sample = sampleProject();
  const bytes = sample.frames.map((f) => strToU8(`the original of ${f.file}`));
  const hashes = await Promise.all(bytes.map(sha256));
  const frames = sample.frames.map((f, i) => ({ ...f, hash: hashes[i], bytes: bytes[i].length }));
  return {
    project: { ...sample, frames, made: {} },
    originals: new Map(hashes.map((h, i) => [h, bytes[i]])),
  };
}

const file = (bytes: Uint8Array): PackedFile => new Blob([bytes.slice()]);
const open = async (bytes: Uint8Array) => (await openProjectFile('p.zip', file(bytes))).read();

/** Sets the sizes that the central directory states for an entry (APPNOTE.TXT, 4.3.12). */
function stating(zip: Uint8Array, name: string, unpacked: number): Uint8Array {
  const out = zip.slice();
  const view = new DataView(out.buffer);
  for (let p = 0; p + 46 < out.length; p++)
    if (
      view.getUint32(p, true) === 0x02014b50 &&
      new TextDecoder().decode(out.subarray(p + 46, p + 46 + name.length)) === name
    )
      view.setUint32(p + 24, unpacked, true);
  return out;
}

/** Points an entry of the central directory at the bytes of another one. */
function overlapping(zip: Uint8Array): Uint8Array {
  const out = zip.slice();
  const view = new DataView(out.buffer);
  const entries: number[] = [];
  for (let p = 0; p + 46 < out.length; p++) if (view.getUint32(p, true) === 0x02014b50) entries.push(p);
  view.setUint32(entries[2] + 42, view.getUint32(entries[1] + 42, true), true);
  return out;
}

describe('the project file', () => {
  test('packs and opens again with the same recipe, originals and preview', async () => {
    const parts = { ...(await wholeProject()), preview: Uint8Array.of(1, 2, 3) };
    const opened = await openProjectFile('a.zip', file(packProject(parts)));
    const { project, preview } = await opened.read();
    expect(project).toEqual(parts.project);
    expect([...(preview ?? [])]).toEqual([1, 2, 3]);
    for (const frame of project.frames)
      expect(new TextDecoder().decode(await opened.original(frame))).toBe(`the original of ${frame.file}`);
  });

  test('is written whatever the date of the project is', async () => {
    const parts = await wholeProject();
    for (const year of [1970, 2150, NaN]) {
      const packed = packProject(parts, new Date(year, 0, 1));
      expect((await open(packed)).project.title).toBe('Sample');
    }
  });

  test.each<[string, (parts: Awaited<ReturnType<typeof wholeProject>>) => Uint8Array, RegExp]>([
    ['not a zip', () => strToU8('hello'), /damaged or is not a Marsh project/],
    ['nothing', () => new Uint8Array(), /damaged or is not a Marsh project/],
    ['a zip of something else', () => zipSync({ 'readme.txt': strToU8('hi') }), /holds no recipe/],
    ['a recipe that is no JSON', () => zipSync({ 'project.json': strToU8('{') }), /recipe cannot be read/],
    ['cut off', (parts) => packProject(parts).slice(0, 300), /damaged/],
    [
      'an original is missing',
      ({ project }) => packProject({ project, originals: new Map() }),
      /lacks the original of “dark\.jpg”/,
    ],
    [
      'an original of another size than the recipe says',
      ({ project, originals }) =>
        packProject({
          project,
          originals: new Map([...originals.keys()].map((h) => [h, new Uint8Array(9e5)])),
        }),
      /the original of “dark\.jpg” has another size/,
    ],
    [
      'a recipe that unpacks to far more than a recipe',
      () => zipSync({ 'project.json': new Uint8Array(60e6) }, { level: 1 }),
      /unpacks to more than Marsh takes/,
    ],
    [
      'a recipe that says it is small and is not',
      () => stating(zipSync({ 'project.json': new Uint8Array(30e6) }, { level: 1 }), 'project.json', 5000),
      /unpacks to more than it says|damaged/,
    ],
    [
      'more files than a project has',
      () => zipSync(Object.fromEntries(Array.from({ length: 900 }, (_, i) => [`f${i}`, Uint8Array.of(1)]))),
      /holds more than 800 files/,
    ],
  ])('%s is refused by a sentence', async (_, make, says) => {
    const bytes = make(await wholeProject());
    await expect(open(bytes)).rejects.toThrow(says);
  });

  test('entries that lie over each other are refused', async () => {
    const { project, originals } = await wholeProject();
    const opened = await openProjectFile('p.zip', file(overlapping(packProject({ project, originals }))));
    await expect(
      (async () => {
        const read = await opened.read();
        for (const frame of read.project.frames) await opened.original(frame);
      })(),
    ).rejects.toThrow(/damaged/);
  });

  test('an original that is another one than the recipe says is refused', async () => {
    const { project, originals } = await wholeProject();
    const changed = new Map([...originals].map(([hash, bytes]) => [hash, bytes.slice().reverse()]));
    const opened = await openProjectFile('p.zip', file(packProject({ project, originals: changed })));
    await expect(opened.original(project.frames[0])).rejects.toThrow(
      'the original of “dark.jpg” has changed',
    );
  });

  test('what the recipe does not name is never unpacked, however large it is', async () => {
    const { project, originals } = await wholeProject();
    const bomb = new Uint8Array(2e6);
    const packed = zipSync(
      {
        'project.json': strToU8(JSON.stringify(project)),
        'notes/of a system.txt': strToU8('x'),
        ...Object.fromEntries([...originals].map(([hash, b]) => [`originals/${hash}`, b])),
        ...Object.fromEntries(['a', 'b', 'c'].map((c) => [`originals/${c.repeat(64)}`, bomb])),
      },
      { level: 0 },
    );
    let read = 0;
    const pieces = file(packed);
    const counted: PackedFile = {
      size: pieces.size,
      slice: (from, to) => ((read += to - from), pieces.slice(from, to)),
    };
    const opened = await openProjectFile('p.zip', counted);
    expect((await opened.read()).project.frames).toHaveLength(3);
    await opened.original(project.frames[0]);
    // the packed bombs are not even read
    expect(packed.length).toBeGreaterThan(200_000);
    expect(read).toBeLessThan(400_000);
  });
});
