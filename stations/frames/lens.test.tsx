import { expect, test } from '@jest/globals';
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { emptyImage } from '@/core/raster/encodedImage';
import { NO_LENS } from '@/core/capture/lensFaults';
import { type LateralColour } from '@/core/capture/lateralColour';
import { type DecodedFrame, type Tasks } from '@/engine/tasks';
import { BenchProvider } from '@/stations/benchContext';
import { openBench } from '@/store/bench';
import { setMeasuredLens } from '@/store/edits/sets';
import { START } from '@/store/session';
import { poolThat } from '@/tests/poolThat';
import { baseOf, sampleProject } from '@/tests/sampleProject';
import { LensSection } from './LensSection';

const user = userEvent.setup();

/** Opens the section on a bracket whose frames tell one lateral colour each, and asks for the measure. */
async function opened(told: readonly LateralColour[], before: (task: () => void) => void = (task) => task()) {
  const project = sampleProject();
  let asked = 0;
  // what the bench itself asks for is never answered
  const never = () => new Promise(() => undefined);
  const tasks = { lateralColour: () => told[asked++], measureSet: never } as unknown as Tasks;
  const pool = poolThat((task) => new Promise((resolve) => before(() => resolve(task(tasks as never)))));
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  const bench = openBench({ pool, stored, save: () => Promise.resolve() });
  render(
    <BenchProvider value={{ bench, viewer: pool, showPlace: () => undefined }}>
      <LensSection />
    </BenchProvider>,
  );
  const frame = { levels: [emptyImage(60, 40, 255)] } as unknown as DecodedFrame;
  await user.click(screen.getByLabelText('Take back what the lens did'));
  act(() =>
    bench.store.setState({
      paused: true,
      decoded: Object.fromEntries(project.frames.map((f) => [f.hash, frame])),
    }),
  );
  await user.click(screen.getByRole('button', { name: 'Measure in the frames' }));
  return bench;
}

test('the colours of the lens are measured in the frames and set, as one step that can be taken back', async () => {
  const bench = await opened([
    { red: 0.0011, blue: -0.0009, places: 240 },
    { red: 0.001, blue: -0.001, places: 210 },
    { red: 0.0012, blue: -0.0011, places: 190 },
  ]);
  expect(await screen.findByText(/its colours, from edges/)).toBeInTheDocument();
  const lens = () => baseOf(bench.store.getState().history.project).set.prepare.lens;
  // the middle of the three frames
  expect(lens()).toMatchObject({ red: 0.0011, blue: -0.001, distortion: 0 });
  act(bench.actions.undo);
  expect(lens()).toMatchObject({ red: 0, blue: 0 });
});

test('says so when nothing can be measured, and sets nothing', async () => {
  const none = { red: 0, blue: 0, places: 3 };
  const bench = await opened([none, none, none]);
  expect(await screen.findByText(/Nothing could be measured/)).toBeInTheDocument();
  expect(baseOf(bench.store.getState().history.project).set.prepare.lens).toMatchObject({ red: 0, blue: 0 });
});

test('what was set while it measured stays, and a lens that is not to be taken back any more is left alone', async () => {
  const waiting: (() => void)[] = [];
  const told = [0, 1, 2].map(() => ({ red: 0.001, blue: -0.001, places: 200 }));
  const bench = await opened(told, (task) => waiting.push(task));
  act(() => bench.actions.edit('even', (draft) => void (draft.sets[0].prepare.balance = 'even')));
  await act(async () => {
    waiting.splice(0).forEach((go) => go());
    await Promise.resolve();
  });
  expect(await screen.findByText(/its colours, from edges/)).toBeInTheDocument();
  expect(baseOf(bench.store.getState().history.project).set.prepare).toMatchObject({
    balance: 'even',
    lens: { red: 0.001, blue: -0.001 },
  });
  await user.click(screen.getByLabelText('Take back what the lens did'));
  act(() => bench.actions.edit('measured', setMeasuredLens('set', { ...NO_LENS, red: 0.002 })));
  expect(baseOf(bench.store.getState().history.project).set.prepare.lens).toBeUndefined();
});

test('a measure that broke off says so, not that nothing could be measured', async () => {
  await opened([], () => {
    throw new Error('a worker died');
  });
  expect(await screen.findByText(/broke off/)).toBeInTheDocument();
});
