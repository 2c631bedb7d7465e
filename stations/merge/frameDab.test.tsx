import { describe, expect, test } from '@jest/globals';
import { act, render, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode } from 'react';
import { type FrameDab, MOST_FRAME_DABS } from '@/core/merge/seams/frameDab';
import { PROJECT_SCHEMA } from '@/core/recipe/projectSchema';
import { setReference } from '@/store/edits/frames';
import { setFrameDabs } from '@/store/edits/sets';
import { BenchProvider } from '@/stations/benchContext';
import { baseOf, sampleFit, sampleProject, withFits } from '@/tests/sampleProject';
import { benchOf } from '@/tests/testBench';
import { MergeOverlay } from './Overlay';
import { SeamSection } from './SeamSection';
import { useFrameDabTool } from './useFrameDabTool';

const user = userEvent.setup();
const at = (x: number, y: number) => ({ x, y, pressure: 1 });
const DAB: FrameDab = { frame: 'light', size: 0.01, points: [[0.2, 0.3]] };

/** A bench with fitted moments, at Merge, and what its store says. */
function moments(dabs: readonly FrameDab[] = []) {
  const fits = { dark: sampleFit(0, 0), mid: sampleFit(0, 0), light: sampleFit(0, 0) };
  const bench = benchOf(withFits(sampleProject({ kind: 'moments' }), fits));
  if (dabs.length > 0) bench.actions.edit('Dabs', setFrameDabs('set', dabs));
  bench.actions.go({ station: 'merge' });
  const value = { bench, viewer: bench.pool, showPlace: () => undefined };
  const wrapper = ({ children }: { children: ReactNode }) => (
    <BenchProvider value={value}>{children}</BenchProvider>
  );
  const set = () => baseOf(bench.store.getState().history.project).set;
  return { bench, wrapper, set };
}

describe('a place from one frame', () => {
  test('a frame is taken in hand and shown; pressed again it is laid down', async () => {
    const { bench, wrapper } = moments();
    render(<SeamSection />, { wrapper });
    const frame = screen.getByRole('button', { name: 'Frame 3' });
    await user.click(frame);
    expect(frame).toHaveAttribute('aria-pressed', 'true');
    expect(bench.store.getState().session).toMatchObject({ look: 'fitted', frame: 'light' });
    expect(screen.getByText(/is to come from frame 3/)).toBeVisible();
    await user.click(frame);
    expect(frame).toHaveAttribute('aria-pressed', 'false');
    expect(bench.store.getState()).toMatchObject({ tool: undefined, session: { look: 'result' } });
  });

  test('what is drawn is a step of the recipe, within the picture, and the result is shown', () => {
    const { bench, wrapper, set } = moments();
    act(() => bench.actions.take('from light'));
    const { result } = renderHook(() => useFrameDabTool(), { wrapper });
    act(() => result.current.tool?.onStart(at(60, 120)));
    act(() => result.current.tool?.onMove([at(90, 120), at(-1e7, 1e7)]));
    expect(result.current.drawn?.points).toHaveLength(3);
    act(() => result.current.tool?.onEnd());
    expect(result.current.drawn).toBeUndefined();
    expect(set().dabs).toMatchObject([
      {
        frame: 'light',
        points: [
          [expect.closeTo(0.1, 5), expect.closeTo(0.2, 5)],
          [expect.closeTo(0.15, 5), expect.closeTo(0.2, 5)],
          [0, expect.closeTo(2 / 3, 2)],
        ],
      },
    ]);
    expect(bench.store.getState().session.look).toBe('result');
    expect(PROJECT_SCHEMA.isValidSync(bench.store.getState().history.project)).toBe(true);
    act(bench.actions.undo);
    expect(set().dabs).toBeUndefined();
  });

  test('two fingers take back what one began; without a frame in hand nothing is drawn', () => {
    const { bench, wrapper, set } = moments();
    const { result } = renderHook(() => useFrameDabTool(), { wrapper });
    expect(result.current.tool).toBeUndefined();
    act(() => bench.actions.take('from mid'));
    act(() => result.current.tool?.onStart(at(60, 120)));
    act(() => result.current.tool?.onCancel?.());
    expect(result.current.drawn).toBeUndefined();
    expect(set().dabs).toBeUndefined();
  });

  test('more than a set can have are not taken, and it is said', () => {
    const { bench, wrapper, set } = moments(Array.from({ length: MOST_FRAME_DABS }, () => DAB));
    act(() => bench.actions.take('from light'));
    const { result } = renderHook(() => useFrameDabTool(), { wrapper });
    act(() => result.current.tool?.onStart(at(60, 120)));
    act(() => result.current.tool?.onEnd());
    expect(set().dabs).toHaveLength(MOST_FRAME_DABS);
    expect(bench.store.getState().problems.join()).toContain('as many points as a set can have');
  });

  test('points are listed, marked with their frame’s number, and left out one by one', async () => {
    const { bench, wrapper, set } = moments([DAB, { ...DAB, frame: 'dark' }]);
    const scene = { levels: [], frames: ['dark', 'mid', 'light'], shares: [], noise: 0 };
    bench.store.setState({ merged: { set: { key: 'k', scene, findings: [], movers: [] } } });
    const view = { viewport: { zoom: 1, x: 300, y: 200 }, table: { width: 600, height: 400 } };
    const { container } = render(
      <>
        <SeamSection />
        <MergeOverlay {...view} />
      </>,
      { wrapper },
    );
    expect([...container.querySelectorAll('text')].map((t) => t.textContent)).toEqual(['3', '1']);
    await user.click(screen.getByRole('button', { name: 'Leave out point 1, from frame 3' }));
    expect(set().dabs).toMatchObject([{ frame: 'dark' }]);
    expect(container.querySelectorAll('text')).toHaveLength(1);
    await user.click(screen.getByRole('button', { name: 'Leave out point 1, from frame 1' }));
    expect(set().dabs).toBeUndefined();
  });

  test('points go with the reference on whose grid they lie', () => {
    const { bench, set } = moments([DAB]);
    act(() => bench.actions.edit('Reference', setReference('dark')));
    expect(set().dabs).toBeUndefined();
  });
});
