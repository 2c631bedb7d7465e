import { type SetCandidate } from '@/core/capture/recogniseSet';
import { problemSentence } from '@/core/proof/problem';
import { firstPlace } from '@/core/layers/platePlace';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { type Frame } from '@/core/recipe/project';
import { type DecodedFrame, type FrameReadings } from '@/engine/tasks';
import { type Bench } from './bench';
import { addFrames } from './edits';

/** A file from a drop, a picker or the demo. */
export interface NewFile {
  readonly name: string;
  /** its bytes; read when its turn has come, so that fifty files do not lie in memory at once */
  readonly read: () => Promise<Uint8Array>;
}

/** Decoded pixels that a tab may hold, bytes: about sixteen frames of 24 MP. */
const MOST_PIXELS = 1.7e9;

/** Memory of a decoded frame with its levels. */
function pixelBytes({ levels }: DecodedFrame): number {
  return levels.reduce((sum, l) => sum + l.data.byteLength, 0);
}

interface Loaded {
  readonly file: NewFile;
  readonly bytes: number;
  readonly frame: DecodedFrame;
  readonly readings: FrameReadings;
}

/** A file may take this long to decode before it counts as hostile, milliseconds. */
const DECODE_LIMIT = 60_000;

/** Lets at most `size` at a time pass. */
function turnsOf(size: number): { enter: () => Promise<() => void> } {
  const waiting: (() => void)[] = [];
  let free = size;
  const leave = (): void => {
    const next = waiting.shift();
    if (next) next();
    else free++;
  };
  return {
    enter: () =>
      new Promise((resolve) => {
        if (free > 0) {
          free--;
          resolve(leave);
        } else waiting.push(() => resolve(leave));
      }),
  };
}

function tooMany(names: readonly string[]): string {
  const which = names.length === 1 ? `“${names[0]}” was` : `“${names[0]}” and ${names.length - 1} more were`;
  return `${which} left out: the frames that are here already fill what a browser tab can hold. Start a second project for them, or take frames out.`;
}

/**
 * Decodes files, keeps their bytes, and adds them to the project as one step. A file that cannot be read leaves a sentence; the
 * others load.
 */
export async function addFiles(
  bench: Bench,
  files: readonly NewFile[],
  keep: (hash: string, bytes: Uint8Array) => Promise<void>,
): Promise<void> {
  const { pool, store, actions, screen } = bench;
  const { calmly } = screen;
  await actions.during(
    `Reading ${files.length} ${files.length === 1 ? 'file' : 'files'}`,
    async (signal, progress) => {
      let done = 0;
      let held = Object.values(store.getState().decoded).reduce((sum, f) => sum + pixelBytes(f), 0);
      const beyond: string[] = [];
      const turns = turnsOf(pool.size);
      const results = await Promise.all(
        files.map(async (file): Promise<Loaded | undefined> => {
          const leave = await turns.enter();
          try {
            if (held > MOST_PIXELS) {
              beyond.push(file.name);
              return undefined;
            }
            const bytes = await file.read();
            const frame = await pool.run((tasks) => tasks.decode(file.name, bytes), {
              signal,
              limit: DECODE_LIMIT,
            });
            calmly(() =>
              store.setState((s) => ({
                arriving: [...s.arriving, { file: file.name, levels: frame.levels }],
              })),
            );
            await keep(frame.hash, bytes);
            held += pixelBytes(frame);
            // measured once the picture can be seen
            const readings = await pool.run((tasks) => tasks.readings(frame.levels[0]), { signal });
            return { file, frame, readings, bytes: bytes.length };
          } catch (thrown) {
            if (signal.aborted) throw thrown;
            actions.report(problemSentence(thrown, `Reading “${file.name}”`));
            store.setState((s) => ({ unreadable: s.unreadable + 1 }));
            return undefined;
          } finally {
            leave();
            progress(++done / files.length);
          }
        }),
      );
      if (beyond.length > 0) actions.report(tooMany(beyond));
      const known = new Set(store.getState().history.project.frames.map((f) => f.hash));
      const added: Loaded[] = [];
      for (const loaded of results) {
        if (!loaded) continue;
        if (known.has(loaded.frame.hash))
          actions.report(`“${loaded.file.name}” is already here; it was not added twice.`);
        else added.push(loaded);
        known.add(loaded.frame.hash);
      }
      if (added.length === 0) return;
      calmly(() =>
        store.setState((s) => ({
          decoded: { ...s.decoded, ...Object.fromEntries(added.map(({ frame }) => [frame.hash, frame])) },
        })),
      );
      const { decoded, history } = store.getState();
      const members = history.project.frames.filter((f) => !f.plate);
      const { joining, plates } = parted(added, members.length);
      const inputs = [
        ...members.map((f) => ({ image: decoded[f.hash].levels[0], facts: f.facts })),
        ...joining.map(({ frame }) => ({ image: frame.levels[0], facts: frame.facts })),
      ];
      const stops = await pool.run((tasks) => tasks.stops(inputs), { signal });
      const joined = joining.map((loaded, i) => newFrame(loaded, stops[members.length + i]));
      const candidates = [...members, ...joined].map((f, i): SetCandidate => {
        const { levels } = store.getState().decoded[f.hash];
        return { ...f, stops: stops[i].stops, levels, sharpness: f.measures.sharpness };
      });
      const proposal = await pool.run((tasks) => tasks.recognise(candidates), { signal });
      const laid = history.project.frames.length - members.length;
      const grid = pictureGrid(history.project) ?? joined[0] ?? members[0];
      const frames = [
        ...joined,
        ...plates.map((loaded, i): Frame => {
          const frame = newFrame(loaded, { stops: 0, source: 'measured' });
          return { ...frame, used: false, plate: firstPlace(frame, grid, laid + i) };
        }),
      ];
      const names = frames.length === 1 ? `“${frames[0].file}”` : `${frames.length} frames`;
      calmly(() => {
        actions.edit(`Added ${names}`, addFrames(frames, stops, proposal));
        const { session, history: now } = store.getState();
        if (!session.frame) actions.go({ frame: now.project.set.reference });
      });
    },
  );
  // what arrived stands until what became of it is drawn
  screen.afterwards(() => store.setState({ arriving: [] }));
}

/** What joins the set, and what is laid over it because it was cut out; a cut-out alone is the picture itself. */
function parted(added: readonly Loaded[], members: number): { joining: Loaded[]; plates: Loaded[] } {
  const isPlate = ({ frame }: Loaded): boolean => frame.levels[0].alpha !== undefined;
  const joining = added.filter((l) => !isPlate(l));
  if (joining.length + members === 0) return { joining: [...added], plates: [] };
  return { joining, plates: added.filter(isPlate) };
}

function newFrame(
  { file, frame: decoded, readings, bytes }: Loaded,
  stops: { stops: number; source: Frame['stopsSource'] },
): Frame {
  const { width, height } = decoded.levels[0];
  return {
    id: decoded.hash.slice(0, 16),
    file: file.name.slice(0, 255),
    hash: decoded.hash,
    bytes,
    width,
    height,
    depth: decoded.depth,
    facts: decoded.facts,
    stops: stops.stops,
    stopsSource: stops.source,
    ...readings,
    used: true,
  };
}

/** Decodes the originals of a stored project; a missing one leaves a sentence. */
export async function restoreFrames(
  bench: Bench,
  original: (hash: string) => Promise<Uint8Array | undefined>,
): Promise<void> {
  const { pool, store, actions, screen } = bench;
  const { calmly } = screen;
  const { frames } = store.getState().history.project;
  if (frames.length === 0) return;
  await actions.during('Opening the frames', async (signal, progress) => {
    let done = 0;
    const { set } = store.getState().history.project;
    const chosen = store.getState().session.frame;
    await Promise.all(
      frames.map(async (frame) => {
        const bytes = await original(frame.hash);
        if (!bytes) {
          actions.report(
            `The original of “${frame.file}” is gone from this browser. Drop the file here again.`,
          );
          return;
        }
        // the table needs the reference and the chosen frame first
        const priority = frame.id === set.reference ? 2 : frame.id === chosen ? 1 : 0;
        const decoded = await pool.run((tasks) => tasks.decode(frame.file, bytes), { signal, priority });
        progress(++done / frames.length);
        calmly(() => store.setState((s) => ({ decoded: { ...s.decoded, [decoded.hash]: decoded } })));
      }),
    );
  });
}
