import { expect, test } from '@jest/globals';
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type BorderChoice } from '@/core/merge/panorama/borderChoices';
import { type RectangleMesh } from '@/core/merge/rectangle/rectangleMesh';
import { IDENTITY } from '@/core/raster/matrix3';
import { type KeptPanorama } from '@/core/recipe/project';
import { meshOf } from '@/core/recipe/pictureGrid';
import { BenchProvider, useScope } from '@/stations/benchContext';
import { openBench } from '@/store/bench';
import { setOther } from '@/store/edits/sets';
import { START } from '@/store/session';
import { poolThat } from '@/tests/poolThat';
import { baseOf, sampleFit, sampleProject, withFits } from '@/tests/sampleProject';
import { BorderCards } from './BorderCards';

const user = userEvent.setup();
const preview = { width: 4, height: 2, rgba: new Uint8ClampedArray(32) };
const box = { x: 0, y: 0, width: 4, height: 2 };
const choice = (change: Partial<BorderChoice>): BorderChoice => ({
  ...{ preview, box, kept: 0.86, stretch: 0, bow: 0 },
  ...change,
});

/** The cards of the set as it stands. */
function Cards({ panorama }: { readonly panorama: KeptPanorama }) {
  const scope = useScope();
  return scope && <BorderCards scope={scope} panorama={panorama} projection="cylindrical" />;
}

/** The cards of a fitted panorama; each answer of the workers waits until it is let go. */
function opened() {
  const base = sampleProject({ kind: 'panorama' });
  const fit = {
    lens: { focalPx: 560, k1: 0, width: 600, height: 400 },
    rotations: [IDENTITY, IDENTITY, IDENTITY],
    pairs: [],
  };
  const frames = ['dark', 'mid', 'light'];
  const panorama = { frames, fit };
  const project = withFits(base, Object.fromEntries(frames.map((id) => [id, sampleFit(0, 0)])), panorama);
  const waiting: ((answer: unknown) => void)[] = [];
  const asked: unknown[][] = [];
  const pool = poolThat((task) => {
    const tasks = { borderChoices: (...args: unknown[]) => void asked.push(args) };
    void task(tasks as never);
    return new Promise((resolve) => waiting.push(resolve as (answer: unknown) => void));
  });
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  const bench = openBench({ pool, stored, save: () => Promise.resolve() });
  act(() => bench.store.setState({ paused: true }));
  render(
    <BenchProvider value={{ bench, viewer: pool, showPlace: () => undefined }}>
      <Cards panorama={panorama} />
    </BenchProvider>,
  );
  const answer = (crop: BorderChoice, warp: BorderChoice, mesh?: RectangleMesh): Promise<void> =>
    act(async () => {
      waiting.splice(0).forEach((resolve) => resolve({ crop, warp, mesh }));
      await Promise.resolve();
    });
  return { bench, asked, answer };
}

test('both ways to be rid of the border are measured, and say what they lose', async () => {
  const { asked, answer } = opened();
  expect(screen.getAllByText('being measured')).toHaveLength(2);
  expect(asked[0].slice(2, 4)).toEqual(['cylindrical', 'free']);
  await answer(choice({ kept: 0.856 }), choice({ kept: 0.981, stretch: 8.7, bow: 0.62 }));
  expect(screen.getByRole('radio', { name: /^Cropped/ })).toHaveTextContent(/keeps 86\s%$/);
  expect(screen.getByRole('radio', { name: /^Bent/ })).toHaveTextContent(
    /keeps 98\s%, stretches up to 9\s%, lines bow by 0\.6\spx$/,
  );
});

test('a bow that nobody sees is told as such', async () => {
  const { answer } = opened();
  await answer(choice({}), choice({ kept: 1, stretch: 0.4, bow: 0.03 }));
  expect(screen.getByRole('radio', { name: /^Bent/ })).toHaveTextContent(/lines bow by under 0\.1\spx$/);
});

test('the ratio of the crop is measured anew when it changes, and old figures are not shown for it', async () => {
  const { bench, asked, answer } = opened();
  await answer(choice({ kept: 0.856 }), choice({ kept: 0.98 }));
  act(() => bench.actions.edit('square', (draft) => void (draft.geometry.ratio = '1:1')));
  expect(screen.getAllByText('being measured')).toHaveLength(2);
  expect(asked[asked.length - 1][3]).toBe(1);
  await answer(choice({ kept: 0.4 }), choice({ kept: 0.5 }));
  expect(screen.getByRole('radio', { name: /^Cropped/ })).toHaveTextContent(/keeps 40\s%$/);
});

test('the way is chosen by mouse or keyboard, and drops a crop that was drawn on the other paper', async () => {
  const { bench } = opened();
  act(() =>
    bench.actions.edit('crop', (draft) => void (draft.geometry.crop = { x: 1, y: 1, width: 9, height: 9 })),
  );
  await user.click(screen.getByRole('radio', { name: /^Bent/ }));
  expect(baseOf(bench.store.getState().history.project).set.other.border).toBe('warp');
  expect(bench.store.getState().history.project.geometry.crop).toBeUndefined();
  await user.keyboard('{ArrowLeft}');
  await user.keyboard(' ');
  expect(baseOf(bench.store.getState().history.project).set.other.border).toBe('crop');
  act(() => bench.actions.edit('bent', setOther('set', { border: 'warp' })));
  expect(screen.getByRole('radio', { name: /^Bent/ })).toBeChecked();
});

test('what the preview was bent by bends the picture: it is not sought twice', async () => {
  const { bench, answer } = opened();
  const mesh: RectangleMesh = {
    ...{ projection: 'cylindrical', left: 0, top: 0, across: 1, down: 1, columns: 2, rows: 2 },
    ...{ places: [0, 0, 1, 0, 0, 1, 1, 1], stretch: 3, bow: 0 },
  };
  await answer(choice({}), choice({ kept: 0.99 }), mesh);
  await user.click(screen.getByRole('radio', { name: /^Bent/ }));
  expect(meshOf(baseOf(bench.store.getState().history.project))).toEqual(mesh);
  act(bench.actions.undo);
  expect(meshOf(baseOf(bench.store.getState().history.project))).toBeUndefined();
});
