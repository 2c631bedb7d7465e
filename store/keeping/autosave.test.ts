import { describe, expect, test } from '@jest/globals';
import { sampleProject } from '@/tests/sampleProject';
import { rename } from '../edits/geometry';
import { record, startHistory } from '../history';
import { START } from '../session';
import { autosave, type AutosaveParts, type Saving } from './autosave';
import { type JournalLine, type KeptState, replayed } from './journal';
import { TakenOver } from './takenOver';

const start: KeptState = { ...startHistory(sampleProject()), session: START };
const named = (state: KeptState, title: string): KeptState => ({
  ...record(state, `Named it ${title}`, rename(title)),
  session: state.session,
});

/** An autosave whose store is told what to do. */
function kept(save: (state: KeptState, saved: number) => Promise<void>, change: Partial<AutosaveParts> = {}) {
  const lines: JournalLine[] = [];
  const saving: Saving[] = [];
  const failures: unknown[] = [];
  const made = autosave({
    start,
    save,
    journal: (line) => void lines.push({ ...line, project: 'p', holder: 'h' }),
    onSaving: (s) => void saving.push(s),
    onFailure: (thrown) => void failures.push(thrown),
    onWritten: () => undefined,
    ...change,
  });
  return { made, lines, saving, failures };
}

describe('autosave', () => {
  test('a close while a write is under way is followed by the newest state', async () => {
    const written: string[] = [];
    let go = (): void => undefined;
    const { made } = kept(async (state) => {
      await new Promise<void>((resolve) => (go = resolve));
      written.push(state.project.title);
    });
    made.keep(named(start, 'A'));
    const first = made.flush();
    made.keep(named(named(start, 'A'), 'B'));
    const closed = made.close();
    go();
    await new Promise((r) => setTimeout(r, 0));
    go();
    await Promise.all([first, closed]);
    expect(written).toEqual(['A', 'B']);
  });

  test('every change is in the journal before anything is written, and the journal gives the newest state', async () => {
    const { made, lines } = kept(() => new Promise(() => undefined));
    let state = start;
    for (const title of ['A', 'B', 'C']) made.keep((state = named(state, title)));
    expect(lines.map((l) => l.line)).toEqual([1, 2, 3]);
    const stored = JSON.parse(JSON.stringify(lines)) as JournalLine[];
    expect(replayed(start, 0, stored)).toEqual(state);
    expect(replayed(named(start, 'A'), 1, stored).project.title).toBe('C');
    // a gap ends it
    expect(replayed(start, 0, [stored[0], stored[2]]).project.title).toBe('A');
    await Promise.resolve();
  });

  test('a write that fails is told and tried again by itself; nothing is called saved meanwhile', async () => {
    let room = false;
    const { made, saving, failures } = kept(() =>
      room ? Promise.resolve() : Promise.reject(new Error('full')),
    );
    made.keep(named(start, 'A'));
    await made.flush();
    made.keep(named(start, 'B'));
    expect(saving).toEqual(['saving', 'failed']);
    expect(failures).toHaveLength(1);
    room = true;
    for (let k = 0; k < 300 && saving[saving.length - 1] !== 'saved'; k++)
      await new Promise((r) => setTimeout(r, 10));
    expect(saving[saving.length - 1]).toBe('saved');
    await made.close();
  });

  test('what another tab has taken over is not written any more', async () => {
    let tried = 0;
    const { made, saving, lines } = kept(() => {
      tried++;
      return Promise.reject(new TakenOver());
    });
    made.keep(named(start, 'A'));
    await made.flush();
    made.keep(named(start, 'B'));
    await made.close();
    expect(tried).toBe(1);
    expect(lines).toHaveLength(1);
    expect(saving).toEqual(['saving']);
  });
});
