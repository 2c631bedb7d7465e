import { describe, expect, test } from '@jest/globals';
import { act, render, renderHook, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode } from 'react';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { type MatchSettings } from '@/core/edits/match/matchSettings';
import { findEdit } from '@/core/edits/ranked';
import { straightCurve } from '@/core/match/matchMap';
import { BenchProvider } from '@/stations/benchContext';
import { MatchOverlay } from '@/stations/match/Overlay';
import { setKindOfEdit } from '@/store/edits/list';
import { sampleProject } from '@/tests/sampleProject';
import { benchOf } from '@/tests/testBench';
import { Marks } from './Marks';
import { markInHand, useMarkTool } from './useMarkTool';

const user = userEvent.setup();
const WHOLE = { kind: 'whole' } as const;
const SETTINGS: MatchSettings = {
  ...EDIT_KINDS.match.plain,
  curves: [0, 1, 2].map(() => [...straightCurve(11)]),
  marks: [
    { says: 'grey', x: 100, y: 80, from: [0.5, 0.5, 0.5] },
    { says: 'white', x: 200, y: 80, from: [0.8, 0.7, 0.6] },
  ],
};

function bench() {
  const made = benchOf(sampleProject());
  made.actions.edit('Match', setKindOfEdit(WHOLE, 'match', SETTINGS, 'm'));
  made.actions.go({ station: 'match', edit: 'm', look: 'result' });
  const value = { bench: made, viewer: made.pool, showPlace: () => undefined };
  const wrapper = ({ children }: { children: ReactNode }) => (
    <BenchProvider value={value}>{children}</BenchProvider>
  );
  const settings = () => findEdit(made.store.getState().history.project.edits, 'match')?.settings;
  return { bench: made, wrapper, settings };
}

describe('marks in the panel', () => {
  test('each says what became of it, and goes by itself', async () => {
    const { wrapper, settings } = bench();
    render(<Marks at={WHOLE} settings={SETTINGS} />, { wrapper });
    const lines = within(screen.getByRole('list', { name: 'Marks' })).getAllByRole('listitem');
    expect(lines[0]).toHaveTextContent('128 128 128 · 0.0 ΔE');
    expect(lines[1]).toHaveTextContent(/White204 17[89] 153 · [12]\d\.\d ΔE/);
    await user.click(screen.getByRole('button', { name: 'Take mark 2 away' }));
    expect(settings()?.marks).toHaveLength(1);
    expect(settings()?.marks?.[0].says).toBe('grey');
  });

  test('one is taken in hand by its name, and laid down again', async () => {
    const made = bench();
    render(<Marks at={WHOLE} settings={SETTINGS} />, made);
    const kept = screen.getByRole('button', { name: 'Kept' });
    await user.click(kept);
    expect(kept).toHaveAttribute('aria-pressed', 'true');
    expect(made.bench.store.getState().tool).toBe('mark keep');
    expect(screen.getByText('Press what is not to change: skin, leaves.')).toBeVisible();
    await user.click(kept);
    expect(made.bench.store.getState().tool).toBeUndefined();
    act(() => made.bench.actions.take('mark like'));
    expect(screen.getByText('Now press what it is to look like.')).toBeVisible();
    expect(screen.getByRole('button', { name: 'Like there' })).toHaveAttribute('aria-pressed', 'true');
  });

  test('they are numbered on the picture, not on a frame as it was shot', () => {
    const made = bench();
    const view = { viewport: { zoom: 1, x: 300, y: 200 }, table: { width: 600, height: 400 } };
    const { container } = render(<MatchOverlay {...view} />, made);
    expect([...container.querySelectorAll('text')].map((t) => t.textContent)).toEqual(['1', '2']);
    act(() => made.bench.actions.go({ look: 'shot' }));
    expect(container.querySelectorAll('text')).toHaveLength(0);
  });

  test('a place of which nothing is known yet is said, and no mark is made', async () => {
    const made = bench();
    act(() => made.bench.actions.take('mark white'));
    const { result } = renderHook(() => useMarkTool(), made);
    act(() => result.current?.onStart({ x: 10, y: 10, pressure: 1 }));
    act(() => result.current?.onEnd());
    await waitFor(() =>
      expect(made.bench.store.getState().problems.join()).toContain('Nothing is known of that place'),
    );
    act(() => made.bench.actions.go({ look: 'shot' }));
    act(() => result.current?.onStart({ x: 10, y: 10, pressure: 1 }));
    act(() => result.current?.onEnd());
    await waitFor(() =>
      expect(made.bench.store.getState().problems.join()).toContain('a frame as it was shot'),
    );
    // a station that shows no frame is on the picture, whatever was looked at before
    act(() => made.bench.store.setState({ problems: [] }));
    act(() => made.bench.actions.go({ station: 'finish' }));
    act(() => result.current?.onStart({ x: 10, y: 10, pressure: 1 }));
    act(() => result.current?.onEnd());
    await waitFor(() => expect(made.bench.store.getState().problems.join()).toContain('Nothing is known'));
    expect(made.settings()?.marks).toHaveLength(2);
    expect([markInHand('mark same'), markInHand('mark like'), markInHand('brush')]).toEqual([
      'same',
      undefined,
      undefined,
    ]);
  });
});
