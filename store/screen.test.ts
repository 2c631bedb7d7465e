import { expect, test } from '@jest/globals';
import { exposed } from '@/tests/exposed';
import { poolThat } from '@/tests/poolThat';
import { sampleDecoded, sampleProject } from '@/tests/sampleProject';
import { type Bench } from './benchState';
import { openBench } from './bench';
import { setUsed } from './edits/frames';
import { setHow } from './edits/sets';
import { START } from './session';

/** Work that was asked of the workers, to be answered by hand. */
interface Asked {
  readonly answer: (made: unknown) => void;
}

/** A bench on a screen that draws when it is told to, with workers that answer when they are. */
function bench(): {
  made: Bench;
  asked: Asked[];
  draw: () => void;
  rest: () => void;
  calm: { count: number };
} {
  let still: () => void = () => undefined;
  const waiting: (() => void)[] = [];
  const asked: Asked[] = [];
  const calm = { count: 0 };
  const pool = poolThat(
    <T>() => new Promise<T>((resolve) => asked.push({ answer: (made) => resolve(made as T) })),
  );
  const project = sampleProject();
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  const made = openBench({
    pool,
    stored,
    save: () => Promise.resolve(),
    screen: {
      calmly: (change) => {
        calm.count++;
        change();
      },
      afterwards: (then) => waiting.push(then),
      whenStill: (then) => (still = then),
    },
  });
  const draw = (): void => waiting.splice(0).forEach((then) => then());
  return { made, asked, draw, rest: () => still(), calm };
}

const soon = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));

test('the next stage begins once the screen has drawn what changed, and once for many changes', async () => {
  const { made, asked, draw } = bench();
  made.store.setState({ decoded: sampleDecoded() });
  made.actions.edit('Exposure', exposed(1));
  await soon();
  expect(asked).toHaveLength(0);
  draw();
  await soon();
  expect(asked.length).toBeGreaterThan(0);
  const begun = asked.length;
  made.store.setState({ decoded: { ...made.store.getState().decoded } });
  draw();
  await soon();
  // the same stage is still wanted and goes on
  expect(asked).toHaveLength(begun);
  await made.actions.close();
});

test('while a hand moves nothing is begun; what was under way goes on only where it is wanted all the same', async () => {
  const { made, asked, draw, rest } = bench();
  made.store.setState({ decoded: sampleDecoded() });
  for (const stops of [0.1, 0.2, 0.3]) made.actions.edit('Exposure', exposed(stops), 'slider 1');
  draw();
  await soon();
  expect(asked).toHaveLength(0);
  rest();
  draw();
  await soon();
  const begun = asked.length;
  expect(begun).toBeGreaterThan(0);
  // the merge does not look at the exposure
  const { work } = made.store.getState();
  made.actions.edit('Exposure', exposed(0.4), 'slider 1');
  expect(made.store.getState().work).toBe(work);
  rest();
  draw();
  await soon();
  expect(asked).toHaveLength(begun);
  await made.actions.close();
});

test('what workers tell changes the bench calmly, an edit by hand at once', async () => {
  const { made, draw, calm } = bench();
  made.actions.edit('Exposure', exposed(1));
  expect(calm.count).toBe(0);
  made.store.setState({ decoded: sampleDecoded() });
  draw();
  await soon();
  expect(made.store.getState().work?.text).toMatch(/^Merging/);
  expect(calm.count).toBeGreaterThan(0);
  await made.actions.close();
});

test('a result that is no longer asked for is not taken, though the screen has not drawn yet', async () => {
  const { made, asked, draw } = bench();
  // balance is measured before anything else
  made.actions.edit('White balance evened out', setHow('set', { prepare: { balance: 'even' } }));
  made.store.setState({ decoded: sampleDecoded() });
  draw();
  await soon();
  expect(asked).toHaveLength(1);
  made.actions.edit('Left out dark.jpg', setUsed('dark', false));
  asked[0].answer({ balance: [], stops: [], dust: [] });
  await soon();
  expect(made.store.getState().made).toEqual({});
  // and what is asked for now is being made
  expect(asked).toHaveLength(2);
  await made.actions.close();
});
