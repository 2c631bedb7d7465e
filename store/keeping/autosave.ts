import { difference } from './difference';
import { type JournalLine, type KeptState } from './journal';
import { TakenOver } from './takenOver';

export type Saving = 'saved' | 'saving' | 'failed';

/** What writes a project, and who is told. */
export interface AutosaveParts {
  /** what lies in the store already */
  readonly start: KeptState;
  /** writes the whole state, in which the first `saved` lines of the journal are contained */
  readonly save: (state: KeptState, saved: number) => Promise<void>;
  /** hands one line to the browser at once, without waiting for anything */
  readonly journal: (line: Omit<JournalLine, 'project' | 'holder'>) => void;
  readonly onSaving: (saving: Saving) => void;
  /** a write failed; it is tried again by itself */
  readonly onFailure: (thrown: unknown) => void;
  /** a whole state lies in the store */
  readonly onWritten: (state: KeptState) => void;
}

export interface Autosave {
  /** Keeps a state: in the journal at once, whole a little later. */
  readonly keep: (state: KeptState) => void;
  /** Writes the whole state though nothing changed. */
  readonly rewrite: () => Promise<void>;
  /** Writes at once what waits to be written; settles when nothing waits any more, or a write failed. */
  readonly flush: () => Promise<void>;
  /** Writes what waits, then writes nothing any more. */
  readonly close: () => Promise<void>;
}

/** milliseconds from an edit to its whole writing; what is looked at comes first */
const WRITE_AFTER = 120;
/** milliseconds until a write that failed is tried again: longer each time */
const RETRY_AFTER = [1000, 3000, 10_000] as const;

/**
 * Writes a project whenever it changes. Every change goes to the journal at once, as what became of the state before, so that a tab that
 * is closed or killed loses nothing; a while later the whole state is written, one write at a time, and contains the journal so far.
 */
export function autosave({ start, save, journal, onSaving, onFailure, onWritten }: AutosaveParts): Autosave {
  let newest = start;
  let written: KeptState | undefined = start;
  let line = 0;
  let failures = 0;
  let closed = false;
  let due: ReturnType<typeof setTimeout> | undefined;
  let writing: Promise<void> | undefined;

  const writeAll = async (): Promise<void> => {
    while (newest !== written && !closed) {
      const state = newest;
      try {
        await save(state, line);
      } catch (thrown) {
        if (thrown instanceof TakenOver) {
          // another tab has the project now: nothing of this one may reach the store
          closed = true;
          return;
        }
        onSaving('failed');
        onFailure(thrown);
        writeAfter(RETRY_AFTER[Math.min(failures++, RETRY_AFTER.length - 1)]);
        return;
      }
      failures = 0;
      written = state;
      onWritten(state);
      if (newest === written) onSaving('saved');
    }
  };

  const write = (): Promise<void> => {
    clearTimeout(due);
    due = undefined;
    writing ??= writeAll().finally(() => (writing = undefined));
    return writing;
  };

  const writeAfter = (ms: number): void => {
    due ??= setTimeout(() => void write(), ms);
  };

  return {
    keep: (state) => {
      if (closed) return;
      const change = difference(newest, state);
      if (!change) return;
      newest = state;
      journal({ line: ++line, change });
      if (failures === 0) onSaving('saving');
      writeAfter(WRITE_AFTER);
    },
    rewrite: () => {
      written = undefined;
      return write();
    },
    flush: async () => {
      // a write that is under way goes on with the newest state by itself
      if (newest !== written && !closed) await write();
    },
    close: async () => {
      if (newest !== written && !closed) await write();
      closed = true;
      clearTimeout(due);
    },
  };
}
