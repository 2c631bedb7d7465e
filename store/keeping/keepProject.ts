import { type StoreApi } from 'zustand/vanilla';
import { autosave, type Autosave } from './autosave';
import { type BenchParts, type BenchState, type Unkept } from '../benchState';
import { type StoredProject } from '../storedProject';
import { type KeptState } from './journal';
import { type Originals } from './originals';
import { KEPT_BESIDE, keepingProblem, savingProblem } from './savingProblem';
import { TakenOver } from './takenOver';

export interface KeepProjectParts extends Pick<BenchParts, 'stored' | 'save' | 'journal' | 'mirror'> {
  readonly store: StoreApi<BenchState>;
  readonly originals: Originals;
  readonly report: (sentence: string) => void;
  readonly isClosed: () => boolean;
}

/** Keeps what is on the bench: the project as it changes, and its originals. */
export interface KeptProject extends Omit<Autosave, 'keep'> {
  readonly keep: (state: BenchState) => void;
  /** Originals could not be kept: says so, and tries again until they are. */
  readonly keepAgain: (originals: readonly Unkept[], why: unknown) => void;
}

/** milliseconds without an edit after which the recipe is kept a second time */
const MIRROR_AFTER = 4000;
/** milliseconds until originals that could not be kept are tried again */
const MEND_AFTER = 5000;

const keptOf = ({ history, session }: BenchState): KeptState => ({ ...history, session });

/** Ties a bench to what keeps it, and says what could not be kept for as long as that is so. */
export function keepProject(parts: KeepProjectParts): KeptProject {
  const { store, stored, save, journal, mirror, originals, report, isClosed } = parts;

  /** A sentence that stands until what it says is over, or another one is true. */
  const standing = (): ((sentence: string) => void) => {
    let said = '';
    return (sentence) => {
      if (sentence === said) return;
      const before = said;
      said = sentence;
      store.setState((s) => ({ problems: s.problems.filter((p) => p !== before) }));
      if (sentence) report(sentence);
    };
  };
  const sayUnsaved = standing();
  const sayUnkept = standing();
  const sayBeside = standing();
  /** a write failed: the store may have been emptied, or have room again */
  let doubtful = false;
  let failedOnce = false;
  let mirroring: ReturnType<typeof setTimeout> | undefined;
  let mending: ReturnType<typeof setTimeout> | undefined;

  /** Writes originals that the browser lacks, as far as the page has them; again after a while as long as some are lacking. */
  const mend = async (): Promise<void> => {
    clearTimeout(mending);
    const { frames } = store.getState().history.project;
    // those that are still to join the project too
    const hashes = [...new Set([...frames.map((f) => f.hash), ...store.getState().unkept])];
    const lacking = await originals.mend(hashes);
    if (isClosed()) return;
    const names = frames.flatMap((f) => (lacking.includes(f.hash) ? [f.file] : []));
    sayUnkept(names.length > 0 ? keepingProblem(names) : '');
    store.setState((s) => ({
      unkept: [...new Set([...lacking, ...s.unkept.filter((hash) => !hashes.includes(hash))])],
    }));
    if (lacking.length > 0) mending = setTimeout(() => void mend(), MEND_AFTER);
  };

  const storedOf = (state: KeptState): StoredProject => ({
    ...state,
    id: state.project.id,
    changed: state.project.changed,
    holder: stored.holder,
  });

  const keeping = autosave({
    start: keptOf(store.getState()),
    save: async (newest, saved) => {
      const state = { ...storedOf(newest), saved };
      try {
        await save(state);
        sayBeside('');
        // a database that was given up may go on answering until the browser ends, and then be gone
        if (failedOnce) await mirror?.(state).catch(() => undefined);
      } catch (thrown) {
        doubtful = true;
        failedOnce = true;
        if (thrown instanceof TakenOver || !mirror) throw thrown;
        // it may have given its database up and take files all the same
        await mirror(state).catch(() => {
          throw thrown;
        });
        sayBeside(KEPT_BESIDE);
      }
      // nothing is called saved before its originals are
      if (doubtful) await mend();
      doubtful = false;
    },
    journal: (line) => journal?.({ ...line, project: stored.id, holder: stored.holder ?? '' }),
    onSaving: (saving) => store.setState({ saving }),
    onFailure: (thrown) => {
      sayUnsaved(savingProblem(thrown));
    },
    onWritten: (state) => {
      sayUnsaved('');
      if (store.getState().unkept.length > 0) void mend();
      clearTimeout(mirroring);
      if (mirror)
        mirroring = setTimeout(() => void mirror(storedOf(state)).catch(() => undefined), MIRROR_AFTER);
    },
  });

  return {
    ...keeping,
    keep: (state) => keeping.keep(keptOf(state)),
    keepAgain: (unkept, why) => {
      sayUnkept(
        keepingProblem(
          unkept.map((u) => u.name),
          why,
        ),
      );
      store.setState((s) => ({ unkept: [...new Set([...s.unkept, ...unkept.map((u) => u.hash)])] }));
      clearTimeout(mending);
      mending = setTimeout(() => void mend(), MEND_AFTER);
    },
    close: async () => {
      clearTimeout(mirroring);
      clearTimeout(mending);
      await keeping.close();
    },
  };
}
