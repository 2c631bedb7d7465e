import { describe, expect, test } from '@jest/globals';
import { act, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type MatchSettings } from '@/core/edits/match/matchSettings';
import { findEdit } from '@/core/edits/ranked';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { straightCurve } from '@/core/match/matchMap';
import { setKindOfEdit } from '@/store/edits/list';
import { worstOf } from '@/store/stationFindings';
import { renderOnBench } from '@/tests/testBench';
import { sampleProject } from '@/tests/sampleProject';
import { MatchPanel } from '../../match/Panel';

const user = userEvent.setup();
const score = (deltaE: number) => ({
  ...{ deltaE, darks: -0.5, middles: 0.2, lights: 0, chroma: 0.8 },
  cast: { hue: 40, strength: 0.031 },
});

const solved = (paired: boolean): MatchSettings => ({
  ...EDIT_KINDS.match.plain,
  to: 'evening.jpg',
  curves: [0, 1, 2].map(() => [...straightCurve(11)]),
  scores: { before: score(9.4), after: score(4.2), paired, why: 'Because.', cannot: ['Lights are lost.'] },
});

const put = (settings: MatchSettings) => setKindOfEdit({ kind: 'whole' }, 'match', settings, 'whole-match');

describe('a match in the panel', () => {
  test('to a picture of other things asks whether both show one place, to the same things it does not', async () => {
    const bench = renderOnBench(sampleProject(), <MatchPanel />);
    const question = () => screen.queryByRole('checkbox', { name: 'Both show one place in one light' });
    act(() => bench.actions.edit('Matched', put({ ...solved(false), to: 'dark.jpg' })));
    await user.click(screen.getByRole('button', { name: /^Like another/ }));
    expect(question()).not.toBeChecked();
    const scores = { ...solved(false).scores, samePlace: true } as MatchSettings['scores'];
    act(() => bench.actions.edit('Matched', put({ ...solved(false), to: 'dark.jpg', scores })));
    expect(question()).toBeChecked();
    act(() => bench.actions.edit('Matched', put({ ...solved(true), to: 'dark.jpg' })));
    expect(question()).toBeNull();
  });

  test('to several shows how much each counts, and offers those that it is not like yet', async () => {
    const bench = renderOnBench(sampleProject(), <MatchPanel />);
    const weighed = [
      { to: 'dark.jpg', weight: 1 },
      { to: 'light.jpg', weight: 0.4 },
    ];
    act(() => bench.actions.edit('Matched', put({ ...solved(false), to: 'dark.jpg, light.jpg', weighed })));
    await user.click(screen.getByRole('button', { name: /^Like another: like dark.jpg, light.jpg/ }));
    expect(screen.getByRole('slider', { name: 'light.jpg' })).toHaveValue('0.4');
    expect(screen.getByRole('button', { name: 'No longer like dark.jpg' })).toBeVisible();
    await user.click(screen.getByRole('button', { name: /And like/ }));
    expect(screen.getAllByRole('menuitem').map((i) => i.textContent)).toEqual([
      'mid.jpg',
      'A picture from a file …',
    ]);
  });

  test('offers the pictures of the project, and says what came of it line by line', async () => {
    const bench = renderOnBench(sampleProject(), <MatchPanel />);
    await user.click(screen.getByRole('button', { name: /^Like another/ }));
    await user.click(screen.getByRole('button', { name: /Make it like/ }));
    expect(screen.getAllByRole('menuitem').map((i) => i.textContent)).toEqual([
      'dark.jpg',
      'mid.jpg',
      'light.jpg',
      'A picture from a file …',
    ]);
    await user.keyboard('{Escape}');
    act(() => bench.actions.edit('Matched', put(solved(true))));
    const table = within(screen.getByRole('table', { name: 'Beside evening.jpg' }));
    expect(table.getByRole('row', { name: 'to be watched Tone by tone, ΔE2000 9.4 4.2' })).toBeVisible();
    expect(table.getByRole('row', { name: /^to be watched Darkest tenth −0.5 EV/ })).toBeVisible();
    expect(screen.getByText('Lights are lost.')).toBeVisible();
    const settings = () => findEdit(bench.store.getState().history.project.edits, 'match')?.settings;
    act(() => screen.getByRole('slider', { name: 'Contrast' }).focus());
    await user.keyboard('{ArrowLeft}');
    expect(settings()).toMatchObject({ tone: 1, contrast: 0.99, colour: 1 });
    await user.click(screen.getByRole('button', { name: 'Half as much' }));
    expect(settings()).toMatchObject({ tone: 0.5, contrast: 0.495, colour: 0.5, to: 'evening.jpg' });
    act(bench.actions.undo);
    expect(settings()?.tone).toBe(1);
  });

  test('what is left is judged where both show the same, not beside another subject', () => {
    const bench = renderOnBench(sampleProject(), <MatchPanel />);
    act(() => bench.actions.edit('Matched', put(solved(true))));
    expect(worstOf(bench.store.getState(), 'match')).toMatchObject({ id: 'match.left', verdict: 'watch' });
    act(() => bench.actions.edit('Matched otherwise', put(solved(false))));
    expect(worstOf(bench.store.getState(), 'match')?.verdict).toBe('pass');
  });
});
