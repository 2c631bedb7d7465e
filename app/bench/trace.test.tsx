import { describe, expect, jest, test } from '@jest/globals';
import { act, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type Trace } from '@/core/view/tracePoint';
import { type Tasks } from '@/engine/tasks';
import { type WorkerPool } from '@/engine/workerPool';
import { BenchProvider } from '@/stations/benchContext';
import { poolThat } from '@/tests/poolThat';
import { sampleDecoded, sampleProject } from '@/tests/sampleProject';
import { exposed } from '@/tests/exposed';
import { benchOf } from '@/tests/testBench';
import { followable } from '@/ui/followable';
import { type PicturePoint } from '@/ui/table/tool';
import { addStroke } from '@/store/edits/regions';
import { setKindOfEdit } from '@/store/edits/list';
import { TraceCard } from './TraceCard';

const user = userEvent.setup();
const rgb = (v: number): readonly [number, number, number] => [v, v + 1, v + 2];
const TRACE: Trace = {
  rgb: [140, 141, 142],
  shares: [],
  steps: [
    { of: 'frame', id: 'mid', rgb: rgb(90), moved: 0 },
    { of: 'merge', id: 'set', rgb: rgb(120), moved: 9.25 },
    { of: 'edit', id: 'whole-zones', at: 'whole', rgb: rgb(131.4), moved: 3 },
    { of: 'edit', id: 'whole-exposure', at: 'whole', rgb: rgb(140), moved: 2 },
  ],
  most: 1,
};

const STROKE = { action: 'reveal', size: 0.1, softness: 0.5, flow: 1, points: [[0.1, 0.1, 1]] } as const;

const VIEW = { kind: 'finished' } as const;

/** A card whose worker answers with a trace and notes what it was asked. */
function traced(answer: Trace | undefined, first: PicturePoint | undefined) {
  const pointer = followable(first);
  const asked: (readonly [number, number])[] = [];
  const tasks = {
    trace: (_scene: unknown, _view: unknown, x: number, y: number) => {
      asked.push([x, y]);
      return Promise.resolve(answer);
    },
  } as unknown as Tasks;
  const run: WorkerPool['run'] = (job) => job(tasks as never);
  const bench = benchOf(sampleProject());
  const whole = { kind: 'whole' } as const;
  bench.actions.edit('zones', setKindOfEdit(whole, 'zones', { zones: [{ at: 0, by: 1 }] }, 'whole-zones'));
  bench.actions.edit('where', addStroke({ kind: 'edit', at: whole, edit: 'whole-zones' }, STROKE));
  bench.actions.edit('exposure', exposed(0.5));
  const [onGo, onClose] = [jest.fn(), jest.fn()];
  render(
    <BenchProvider value={{ bench, viewer: poolThat(run), showPlace: () => undefined }}>
      <TraceCard view={VIEW} pointer={pointer} onGo={onGo} onClose={onClose} />
    </BenchProvider>,
  );
  act(() => bench.store.setState({ decoded: sampleDecoded() }));
  return { asked, onGo, onClose, point: (where: PicturePoint | undefined) => act(() => pointer.set(where)) };
}

const pause = () => act(() => new Promise((resolve) => setTimeout(resolve, 80)));

describe('the trace of a pixel', () => {
  test('shows its value after every step, and leads to the one that moved it most', async () => {
    const { asked, onGo, onClose } = traced(TRACE, { x: 12.7, y: 30.2 });
    await pause();
    expect(asked.at(-1)).toEqual([12, 30]);
    expect(screen.getByRole('heading', { name: 'Pixel 12, 30' })).toBeInTheDocument();
    const steps = screen.getAllByRole('listitem');
    expect(steps.map((s) => s.textContent)).toEqual([
      'Shot: mid.jpg 90  91  92',
      'Merged120 121 122ΔE 9.3',
      'Zones where 1 stroke131 132 133ΔE 3.0',
      'Exposure140 141 142ΔE 2.0',
    ]);
    expect(steps[1]).toHaveAttribute('data-most');
    expect(within(steps[0]).queryByText(/ΔE/)).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Merged moved it most: go there (g)' }));
    await user.keyboard('g');
    expect(onGo.mock.calls).toEqual([['merge'], ['merge']]);
    await user.click(screen.getByRole('button', { name: 'Close the trace' }));
    expect(onClose).toHaveBeenCalled();
  });

  test('says so when nothing moved the pixel, and when there is none', async () => {
    const { onGo, point } = traced({ ...TRACE, most: undefined }, undefined);
    expect(screen.getByText('Point at a pixel of the picture.')).toBeInTheDocument();
    point({ x: 1, y: 2 });
    await pause();
    expect(screen.getByText('No step moves this pixel visibly.')).toBeInTheDocument();
    await user.keyboard('g');
    expect(onGo).not.toHaveBeenCalled();
  });

  test('only a pointer that rests asks, and what it found stays while it is away', async () => {
    const { asked, point } = traced(TRACE, { x: 0, y: 0 });
    for (let x = 1; x < 6; x++) point({ x, y: 0 });
    await pause();
    expect(asked).toEqual([[5, 0]]);
    point(undefined);
    await pause();
    expect(asked).toHaveLength(1);
    expect(screen.getByRole('heading', { name: 'Pixel 5, 0' })).toBeInTheDocument();
  });
});
