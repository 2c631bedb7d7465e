import { describe, expect, test } from '@jest/globals';
import { act, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode } from 'react';
import { addFrames, setPlate } from '@/store/edits';
import { parseProject } from '@/core/recipe/parseProject';
import { inOrder } from '@/core/recipe/project';
import { poolThat } from '@/tests/poolThat';
import { benchOf, renderOnBench } from '@/tests/testBench';
import { sampleFrame, sampleProject } from '@/tests/sampleProject';
import { BenchProvider } from '../benchContext';
import { LayersPanel } from './Panel';
import { usePlaceTool } from './usePlaceTool';

const user = userEvent.setup();
const PLACE = { x: 0.5, y: 0.3, size: 0.3, turn: 0, mirrored: false };
const heron = sampleFrame('heron', 0, { file: 'heron.png', used: false, plate: PLACE });
const stops = new Map(
  ['dark', 'mid', 'light'].map((id, i) => [id, { stops: 2 * i - 2, source: 'exif' as const }]),
);
const LAYER = 'plate-heron';

describe('a cut-out', () => {
  test('arrives as the topmost layer, shown, and stays out of the set', () => {
    const bench = benchOf(sampleProject());
    act(() => bench.actions.edit('Added', addFrames([heron], stops)));
    const { project } = bench.store.getState().history;
    expect(project.layers.map((l) => [l.id, l.mask.base])).toEqual([
      ['merge', 'shown'],
      [LAYER, 'shown'],
    ]);
    expect(inOrder(project).map((f) => f.id)).toEqual(['dark', 'mid', 'light']);
    expect(project.set.reference).toBe('mid');
    expect(parseProject(JSON.parse(JSON.stringify(project)), 'kept')).toEqual(project);
  });

  test('is said to lie over the picture, where nothing is painted in', () => {
    const bench = renderOnBench(sampleProject(), <LayersPanel />);
    expect(screen.getByText(/Nothing is painted in yet/)).toBeInTheDocument();
    act(() => bench.actions.edit('Added', addFrames([heron], stops)));
    expect(screen.getByText(/One cut-out lies over the picture/)).toBeInTheDocument();
  });

  test('is placed by numbers, mirrored, and goes with its layer', async () => {
    const bench = renderOnBench(sampleProject(), <LayersPanel />);
    act(() => bench.actions.edit('Added', addFrames([heron], stops)));
    act(() => bench.actions.go({ layer: LAYER }));
    const plate = () => bench.store.getState().history.project.frames.find((f) => f.id === 'heron')?.plate;
    await user.click(screen.getByLabelText('Mirrored'));
    expect(plate()?.mirrored).toBe(true);
    act(() => screen.getByRole('slider', { name: 'Turned' }).focus());
    await user.keyboard('{ArrowRight}');
    expect(plate()?.turn).toBeCloseTo(0.1, 6);
    act(() => bench.actions.edit('Grown', setPlate('heron', { size: 1.5 })));
    expect(screen.getByText(/Drawn at 150 % of its own size/)).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Remove' }));
    expect(bench.store.getState().history.project.frames).toHaveLength(3);
    act(bench.actions.undo);
    expect(plate()?.size).toBe(1.5);
  });

  test('is moved with the pointer as one step', () => {
    const bench = benchOf(sampleProject());
    act(() => bench.actions.edit('Added', addFrames([heron], stops)));
    act(() => bench.actions.go({ layer: LAYER }));
    const idle = poolThat();
    const wrapper = ({ children }: { children: ReactNode }) => (
      <BenchProvider value={{ bench, viewer: idle, showPlace: () => undefined }}>{children}</BenchProvider>
    );
    const { result } = renderHook(() => usePlaceTool(), { wrapper });
    expect(result.current).toBeUndefined();
    act(() => bench.actions.take('place'));
    const before = bench.store.getState().history.past.length;
    const at = (x: number, y: number) => ({ x, y, pressure: 1 });
    act(() => result.current?.onStart(at(300, 180)));
    act(() => result.current?.onMove([at(330, 180), at(360, 210)]));
    act(() => result.current?.onMove([at(390, 240)]));
    act(() => result.current?.onEnd());
    const { project, past } = bench.store.getState().history;
    const plate = project.frames.find((f) => f.id === 'heron')?.plate;
    expect(plate?.x).toBeCloseTo(0.5 + 90 / 600, 6);
    expect(plate?.y).toBeCloseTo(0.3 + 60 / 600, 6);
    expect(past.length).toBe(before + 1);
  });
});
