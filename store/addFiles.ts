import { Problem, problemSentence } from '@/core/proof/problem';
import { plainText } from '@/core/recipe/plainText';
import { PROJECT_LIMITS } from '@/core/recipe/projectLimits';
import { decodeAway, decodeFile } from '@/engine/decodeFile';
import { type Frame } from '@/core/recipe/project';
import { type DecodedFrame, type FrameReadings } from '@/engine/tasks';
import { turnsOf } from '@/engine/turns';
import { type Arriving, type Bench } from './benchState';
import { activeScope } from './activeSet';
import { type Change } from './edits/drafts';
import { addPlates } from './edits/frames';
import { frameTaker, heldFrames, isCrowded, pixelBytes } from './memory';
import { proposePlace } from './placeFrames';
import { originalOf, Unread } from './keeping/originalOf';
import { askToKeep, roomLeft, roomProblem } from './keeping/room';

/** A file from a drop, a picker or the demo. */
export interface NewFile {
  readonly name: string;
  /** bytes, where it is known before it is read */
  readonly size?: number;
  /** its bytes; read when its turn has come, so that fifty files do not lie in memory at once */
  readonly read: () => Promise<Uint8Array>;
}

/** A file that was read and measured. */
export interface LoadedFile {
  readonly file: NewFile;
  /** its size */
  readonly bytes: number;
  readonly frame: DecodedFrame;
  readonly readings: FrameReadings;
}

/**
 * Decodes files, keeps their bytes, and adds them to the project as one step. A file that cannot be read leaves a sentence; the
 * others load. Drops that come close together are decoded side by side and join the project one after the other.
 * @param as pictures for the picture, or such that something is only to look like
 */
export async function addFiles(
  bench: Bench,
  files: readonly NewFile[],
  as: 'pictures' | 'references' = 'pictures',
): Promise<void> {
  const { actions, screen, store } = bench;
  void askToKeep();
  const wanted = files.reduce((sum, f) => sum + (f.size ?? 0), 0);
  const lacking = wanted > 0 ? roomProblem(wanted, await roomLeft()) : undefined;
  if (lacking) actions.report(lacking);
  const drop: Drop = { kept: new Set(), arriving: new Set() };
  await actions.during(
    `Reading ${files.length} ${files.length === 1 ? 'file' : 'files'}`,
    async (signal, progress) => {
      const loaded = await readFiles(bench, files, drop, signal, progress);
      await bench.inTurn(() => joinProject(bench, loaded, signal, undefined, as));
    },
  );
  // what arrived stands until what became of it is drawn
  screen.afterwards(() =>
    store.setState((s) => ({ arriving: s.arriving.filter((a) => !drop.arriving.has(a)) })),
  );
  await dropRest(bench, drop.kept);
}

/** What one drop has brought so far. */
interface Drop {
  /** hashes of the originals that were kept for it */
  readonly kept: Set<string>;
  readonly arriving: Set<Arriving>;
}

/** Forgets originals that were kept for frames that the project did not get: a cancelled drop leaves nothing behind. */
async function dropRest({ originals, store }: Bench, kept: ReadonlySet<string>): Promise<void> {
  const { history } = store.getState();
  const named = JSON.stringify([history.project.frames, history.past, history.future]);
  const rest = [...kept].filter((hash) => !named.includes(hash));
  if (rest.length > 0) await originals.drop(rest).catch(() => undefined);
}

/** Reads and decodes the files of a drop, as many at a time as there are workers. */
async function readFiles(
  { pool, store, actions, screen, originals, budget }: Bench,
  files: readonly NewFile[],
  drop: Drop,
  signal: AbortSignal,
  progress: (done: number) => void,
): Promise<LoadedFile[]> {
  let done = 0;
  const before = Object.values(store.getState().decoded).reduce((sum, f) => sum + pixelBytes(f), 0);
  const take = frameTaker(pool, budget, files.length, before);
  const unkept: { name: string; hash: string; why: unknown }[] = [];
  const turns = turnsOf(pool.size);
  const results = await Promise.all(
    files.map(async (file): Promise<LoadedFile | undefined> => {
      const leave = await turns.enter();
      try {
        const bytes = await file.read();
        const { frame, readings: measured } = await take(file.name, bytes, { signal });
        const arriving = { file: file.name, levels: frame.levels };
        drop.arriving.add(arriving);
        screen.calmly(() => store.setState((s) => ({ arriving: [...s.arriving, arriving] })));
        drop.kept.add(frame.hash);
        await originals
          .keep(frame.hash, bytes, file.read)
          .catch((why: unknown) => unkept.push({ name: file.name, hash: frame.hash, why }));
        // measured once the picture can be seen
        const readings = await measured();
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
  if (unkept.length > 0) actions.keepAgain(unkept, unkept[0].why);
  return results.flatMap((loaded) => loaded ?? []);
}

/**
 * Adds what was read to the project as it is now.
 * @param also done in the same step
 */
export async function joinProject(
  bench: Bench,
  results: readonly LoadedFile[],
  signal: AbortSignal,
  also?: Change,
  as: 'pictures' | 'references' = 'pictures',
): Promise<void> {
  const { store, actions, screen } = bench;
  const { calmly } = screen;
  if (signal.aborted) return;
  const { project } = store.getState().history;
  const known = new Map(project.frames.map((f) => [f.hash, f.file]));
  const back: LoadedFile[] = [];
  let added: LoadedFile[] = [];
  for (const loaded of results) {
    const { hash } = loaded.frame;
    if (!known.has(hash)) added.push(loaded);
    // the original of a frame that had lost it
    else if (!store.getState().decoded[hash]) back.push(loaded);
    else actions.report(`“${loaded.file.name}” is already here; it was not added twice.`);
    known.set(hash, loaded.file.name);
  }
  const left = Math.max(0, PROJECT_LIMITS.frames - project.frames.length);
  if (added.length > left) {
    actions.report(
      `A project holds at most ${PROJECT_LIMITS.frames} frames: ${added.length - left} were left out. Start a second project for them.`,
    );
    added = added.slice(0, left);
  }
  const arrived = [...back, ...added];
  if (arrived.length === 0) return;
  calmly(() =>
    store.setState((s) => ({
      decoded: { ...s.decoded, ...Object.fromEntries(arrived.map(({ frame }) => [frame.hash, frame])) },
    })),
  );
  if (added.length === 0) return;
  const names = added.length === 1 ? `“${added[0].file.name}”` : `${added.length} frames`;
  if (as === 'references')
    return calmly(() =>
      actions.edit(`Added ${names} to compare with`, (draft) => {
        // they are kept with the project and are in no layer
        draft.frames.push(...added.map((loaded) => ({ ...newFrame(loaded), used: false })));
      }),
    );
  for (;;) {
    const before = activeScope(store.getState());
    if (!before) return;
    const { joining, plates } = parted(added, before.frames.length);
    const joined = joining.map(newFrame);
    const placed = joined.length > 0 ? await proposePlace(bench, before.set, joined, signal) : undefined;
    // a frame may have been taken out, or come back, while the set was measured
    const now = activeScope(store.getState());
    const same =
      now?.set.id === before.set.id &&
      now.frames.length === before.frames.length &&
      now.frames.every((f, i) => f.id === before.frames[i].id);
    if (!same) continue;
    const alone = plates.map((loaded): Frame => ({ ...newFrame(loaded), used: false }));
    calmly(() => {
      actions.edit(`Added ${names}`, (draft) => {
        placed?.change(draft);
        addPlates(alone)(draft);
        also?.(draft);
      });
      const { session } = store.getState();
      const scope = activeScope(store.getState());
      if (!session.frame && scope) actions.go({ frame: scope.set.reference });
      // what came to pictures that were there is said, so that it can be put elsewhere
      if (placed && before.frames.length > 0)
        store.setState({
          placed: { frames: joined.map((f) => f.id), destination: placed.destination, why: placed.why },
        });
    });
    return;
  }
}

/** What joins a set, and what is laid over it because it was cut out; a cut-out alone is the picture itself. */
function parted(
  added: readonly LoadedFile[],
  members: number,
): { joining: LoadedFile[]; plates: LoadedFile[] } {
  const isPlate = ({ frame }: LoadedFile): boolean => frame.levels[0].alpha !== undefined;
  const joining = added.filter((l) => !isPlate(l));
  if (joining.length + members === 0) return { joining: [...added], plates: [] };
  return { joining, plates: added.filter(isPlate) };
}

function newFrame({ file, frame: decoded, readings, bytes }: LoadedFile): Frame {
  const { width, height } = decoded.levels[0];
  return {
    id: decoded.hash.slice(0, 16),
    file: plainText(file.name, 255) || 'unnamed',
    hash: decoded.hash,
    bytes,
    width,
    height,
    depth: decoded.depth,
    facts: decoded.facts,
    stops: 0,
    stopsSource: 'measured',
    ...readings,
    used: true,
  };
}

/** milliseconds until originals that the store did not give are asked for again */
const AGAIN_AFTER = 5000;

/**
 * Decodes the originals of a project's frames; a missing one, or one that is another picture, leaves a sentence. Those that the browser's store
 * does not give now are asked for again, as long as the bench stands.
 */
export async function restoreFrames(
  bench: Bench,
  frames: readonly Frame[] = bench.store.getState().history.project.frames,
): Promise<void> {
  const { pool, store, actions, screen, originals, inTurn, budget } = bench;
  const { calmly } = screen;
  // what nobody looks at of more frames than fit is only decoded for its halvings
  const state = store.getState();
  const whole = isCrowded(state.history.project, budget) ? heldFrames(state) : undefined;
  if (frames.length === 0) return;
  const unread = new Map<string, string>();
  await actions.during('Opening the frames', (signal, progress) =>
    inTurn(async () => {
      let done = 0;
      const reference = activeScope(store.getState())?.set.reference;
      const chosen = store.getState().session.frame;
      const turns = turnsOf(pool.size);
      // the table needs the reference and the chosen frame first
      const urgency = (f: Frame): number => (f.id === reference ? 2 : f.id === chosen ? 1 : 0);
      const inOrder = frames.slice().sort((a, b) => urgency(b) - urgency(a));
      await Promise.all(
        inOrder.map(async (frame) => {
          const leave = await turns.enter();
          try {
            if (signal.aborted) return;
            const bytes = await originalOf(originals, frame);
            const options = { signal, priority: urgency(frame) };
            const decoded =
              !whole || whole.has(frame.hash)
                ? await decodeFile(pool, frame.file, bytes, options)
                : await decodeAway(pool, frame.file, bytes, budget.staying, options);
            const [{ width, height }] = decoded.levels;
            if (decoded.hash !== frame.hash || width !== frame.width || height !== frame.height)
              throw new Problem(
                `The original of “${frame.file}” is another picture than this project was made with. Drop the right file here again.`,
              );
            // the last one that was read is the last to go
            calmly(() =>
              store.setState(({ decoded: { [frame.hash]: _, ...others } }) => ({
                decoded: { ...others, [frame.hash]: decoded },
              })),
            );
          } catch (thrown) {
            if (signal.aborted) throw thrown;
            const sentence = problemSentence(thrown, `Opening “${frame.file}”`);
            if (thrown instanceof Unread) unread.set(frame.hash, sentence);
            actions.report(sentence);
          } finally {
            leave();
            progress(++done / frames.length);
          }
        }),
      );
    }),
  );
  if (unread.size === 0) return;
  setTimeout(() => {
    if (bench.isClosed()) return;
    for (const sentence of unread.values()) actions.dismiss(sentence);
    const { history, decoded } = store.getState();
    const lacking = history.project.frames.filter(({ hash }) => unread.has(hash) && !decoded[hash]);
    void restoreFrames(bench, lacking);
  }, AGAIN_AFTER);
}
