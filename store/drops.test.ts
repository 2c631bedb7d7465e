import { afterEach, describe, expect, test } from '@jest/globals';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { encodedGain } from '@/core/raster/encodedGain';
import { emptyProject } from '@/core/recipe/emptyProject';
import { type Project } from '@/core/recipe/project';
import { nodePlatform } from '@/engine/nodePlatform';
import { type Tasks } from '@/engine/tasks';
import { memoryOriginals } from '@/store/keeping/memoryOriginals';
import { inlinePool } from '@/tests/inlinePool';
import { paint, waves } from '@/tests/paint';
import { PROJECT_SCHEMA } from '@/core/recipe/projectSchema';
import { matchReferences } from './matchSides';
import { addFiles } from './addFiles';
import { type Bench } from './benchState';
import { openBench } from './bench';
import { removeFrame, setUsed } from './edits/frames';
import { START } from './session';

const { encodeJpeg: encode } = nodePlatform();
const fine = waves(61, 40);

const open: Bench[] = [];
afterEach(async () => {
  for (const b of open.splice(0)) await b.actions.close();
});

function bench(kept = new Map<string, Uint8Array>(), wrap?: (tasks: Tasks) => Tasks): Bench {
  const project = emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z');
  const stored = { id: 'p', changed: project.changed, project, session: START, past: [], future: [] };
  const made = openBench({
    ...{ pool: inlinePool(2, wrap), stored, save: () => Promise.resolve() },
    originals: memoryOriginals(kept),
  });
  open.push(made);
  return made;
}
const project = (b: Bench): Project => b.store.getState().history.project;

/** A frame of a bracket, exposed by `stops`. */
async function shot(stops: number, exif = true): Promise<{ name: string; read: () => Promise<Uint8Array> }> {
  const brighten = encodedGain(stops);
  const image = paint(160, 120, (x, y) => {
    const v = brighten(0.15 + 0.35 * fine(x, y));
    return [v, v * 0.97, v * 0.9];
  });
  const jpeg = await encodeJpeg(image, 95, encode);
  const bytes = exif ? writeExif(jpeg, { seconds: 2 ** stops / 60, aperture: 8, iso: 100 }) : jpeg;
  return { name: `at ${stops}.jpg`, read: () => Promise.resolve(bytes) };
}

/** Exposures by file name, relative to one of them. */
function exposures(b: Bench, zero: string): Record<string, number> {
  const { frames } = project(b);
  const from = frames.find((f) => f.file === zero)?.stops ?? NaN;
  return Object.fromEntries(frames.map((f) => [f.file, Number((f.stops - from).toFixed(1))]));
}

/** Holds back the answers of a task until it is let go. */
function held<K extends keyof Tasks>(
  name: K,
): { wrap: (tasks: Tasks) => Tasks; letGo: () => void; asked: () => number } {
  let letGo = (): void => undefined;
  let asked = 0;
  const gate = new Promise<void>((resolve) => (letGo = resolve));
  return {
    wrap: (tasks) => ({
      ...tasks,
      [name]: async (...args: unknown[]) => {
        asked++;
        await gate;
        return (tasks[name] as (...a: unknown[]) => unknown)(...args);
      },
    }),
    letGo: () => letGo(),
    asked: () => asked,
  };
}
const soon = (ms = 20): Promise<void> => new Promise((r) => setTimeout(r, ms));

describe('drops that come close together', () => {
  test.each([0, 5, 60])('%i ms apart: every frame is there, each with its own exposure', async (apart) => {
    const b = bench();
    const [a, c, d, e] = await Promise.all([-2, 0, 1, 3].map((s) => shot(s)));
    const first = addFiles(b, [a, c]);
    await soon(apart);
    await Promise.all([first, addFiles(b, [d, e])]);
    expect(b.store.getState().problems).toEqual([]);
    expect(exposures(b, c.name)).toEqual({ [a.name]: -2, [c.name]: 0, [d.name]: 1, [e.name]: 3 });
    expect(project(b).log.filter((l) => l.text.startsWith('Added'))).toHaveLength(2);
    expect(b.store.getState().work?.text ?? '').not.toContain('Reading');
    await soon(0);
    expect(b.store.getState().arriving).toEqual([]);
  });

  test('a frame that is taken out while others are measured does not shift their exposures', async () => {
    const stops = held('stops');
    const b = bench(new Map(), stops.wrap);
    stops.letGo();
    const [a, c, d] = await Promise.all([-2, 0, 2].map((s) => shot(s, false)));
    await addFiles(b, [a, c]);
    const gate = held('recognise');
    const second = bench(new Map(), gate.wrap);
    const arriving = addFiles(second, [a, c]);
    for (let k = 0; k < 200 && gate.asked() === 0; k++) await soon(5);
    gate.letGo();
    await arriving;
    // the first frame goes while the third is being measured
    const slow = addFiles(second, [d]);
    await soon(1);
    const gone = project(second).frames.find((f) => f.file === a.name);
    second.actions.edit('Took out', removeFrame(gone?.id ?? ''));
    await slow;
    expect(second.store.getState().problems).toEqual([]);
    expect(Object.keys(exposures(second, c.name)).sort()).toEqual([c.name, d.name].sort());
    expect(exposures(second, c.name)[d.name]).toBeCloseTo(2, 0);
  });

  test('a picture to compare with is kept with the project and is no part of the picture', async () => {
    const b = bench();
    const [a, c, d] = await Promise.all([-2, 0, 2].map((s) => shot(s)));
    await addFiles(b, [a, c]);
    const { sets, layers } = project(b);
    await addFiles(b, [d], 'references');
    expect(project(b).frames.map((f) => f.file)).toEqual([a.name, c.name, d.name]);
    expect(project(b).frames[2].used).toBe(false);
    expect([project(b).sets, project(b).layers]).toEqual([sets, layers]);
    expect(PROJECT_SCHEMA.isValidSync(project(b))).toBe(true);
    expect(matchReferences(project(b), { kind: 'whole' }).map((r) => r.name)).toContain(d.name);
    b.actions.undo();
    expect(project(b).frames).toHaveLength(2);
  });

  test('what fails while frames join is said, and the next drop goes on', async () => {
    let broken = true;
    const b = bench(new Map(), (tasks) => ({
      ...tasks,
      recognise: (frames) => {
        if (broken) throw new TypeError('stops of undefined');
        return tasks.recognise(frames);
      },
    }));
    const [a, c] = await Promise.all([0, 2].map((s) => shot(s)));
    await addFiles(b, [a]);
    expect(b.store.getState().problems.join()).toMatch(
      /Reading 1 file failed unexpectedly \(stops of undefined\)/,
    );
    broken = false;
    await addFiles(b, [c]);
    expect(project(b).frames.map((f) => f.file)).toEqual([c.name]);
  });

  test('a drop that is given up leaves no originals behind, but for what the project has', async () => {
    const kept = new Map<string, Uint8Array>();
    const gate = held('recognise');
    const b = bench(kept, gate.wrap);
    const [a, c] = await Promise.all([0, 2].map((s) => shot(s)));
    const given = addFiles(b, [a, c]);
    for (let k = 0; k < 200 && gate.asked() === 0; k++) await soon(5);
    expect(kept.size).toBe(2);
    b.store.getState().work?.cancel();
    gate.letGo();
    await given;
    expect(kept.size).toBe(0);
    expect(project(b).frames).toEqual([]);
    await addFiles(b, [a]);
    expect(kept.size).toBe(1);
    b.actions.edit('Left out', setUsed(project(b).frames[0].id, false));
    expect(kept.size).toBe(1);
  });

  test('more frames than a project may hold are left out by a sentence', async () => {
    const b = bench();
    const a = await shot(0);
    await addFiles(b, [a]);
    const [frame] = project(b).frames;
    b.actions.edit('Many', (draft) => {
      for (let k = 1; k < 400; k++)
        draft.frames.push({ ...frame, id: `f${k}`, hash: k.toString(16).padStart(64, '0') });
    });
    expect(project(b).frames).toHaveLength(400);
    b.actions.edit('One more', (draft) => void draft.frames.push({ ...frame, id: 'x' }));
    expect(project(b).frames).toHaveLength(400);
    expect(b.store.getState().problems[0]).toContain('at most 400 frames');
  });
});
