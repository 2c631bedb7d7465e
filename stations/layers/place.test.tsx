import { describe, expect, test } from '@jest/globals';
import { act, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode } from 'react';
import { setPlace } from '@/store/edits/layers';
import { addPlates } from '@/store/edits/frames';
import { parseProject } from '@/core/recipe/parseProject';
import { findLayer } from '@/core/layers/layer';
import { inOrder } from '@/core/recipe/setFrames';
import { poolThat } from '@/tests/poolThat';
import { benchOf, renderOnBench } from '@/tests/testBench';
import { baseOf, sampleFrame, sampleProject } from '@/tests/sampleProject';
import { BenchProvider } from '../benchContext';
import { LayersPanel } from './Panel';
import { usePlaceTool } from './usePlaceTool';

const user = userEvent.setup();
const heron = sampleFrame('heron', 0, { file: 'heron.png', width: 180, height: 240 });
const LAYER = 'plate-heron';

describe('a cut-out', () => {
  test('arrives as the topmost layer, shown, and stays out of the set', () => {
    const bench = benchOf(sampleProject());
    act(() => bench.actions.edit('Added', addPlates([heron])));
    const { project } = bench.store.getState().history;
    expect(project.layers.map((l) => [l.id, l.where])).toEqual([
      ['merge', undefined],
      [LAYER, undefined],
    ]);
    expect(inOrder(baseOf(project)).map((f) => f.id)).toEqual(['dark', 'mid', 'light']);
    expect(baseOf(project).set.reference).toBe('mid');
    expect(parseProject(JSON.parse(JSON.stringify(project)), 'kept')).toEqual(project);
  });

  test('is said to lie over the picture, where nothing is painted in', () => {
    const bench = renderOnBench(sampleProject(), <LayersPanel />);
    expect(screen.getByText(/Nothing is painted in yet/)).toBeInTheDocument();
    act(() => bench.actions.edit('Added', addPlates([heron])));
    expect(screen.getByText(/One cut-out lies over the picture/)).toBeInTheDocument();
  });

  test('is placed by numbers, mirrored, and goes with its layer', async () => {
    const bench = renderOnBench(sampleProject(), <LayersPanel />);
    act(() => bench.actions.edit('Added', addPlates([heron])));
    act(() => bench.actions.go({ layer: LAYER }));
    const place = () => findLayer(bench.store.getState().history.project.layers, LAYER)?.place;
    await user.click(screen.getByRole('radio', { name: 'Place' }));
    await user.click(screen.getByLabelText('Mirrored'));
    expect(place()?.mirrored).toBe(true);
    act(() => screen.getByRole('slider', { name: 'Turned' }).focus());
    await user.keyboard('{ArrowRight}');
    expect(place()?.turn).toBeCloseTo(0.1, 6);
    act(() => bench.actions.edit('Grown', setPlace(LAYER, { size: 0.6 })));
    expect(screen.getByText(/Drawn at 150 % of its own size/)).toBeInTheDocument();
    await user.click(screen.getByRole('radio', { name: 'Layer' }));
    await user.click(screen.getByRole('button', { name: 'Remove' }));
    expect(bench.store.getState().history.project.frames).toHaveLength(3);
    act(bench.actions.undo);
    expect(place()?.size).toBe(0.6);
  });

  test('is moved with the pointer as one step', () => {
    const bench = benchOf(sampleProject());
    act(() => bench.actions.edit('Added', addPlates([heron])));
    act(() => bench.actions.go({ layer: LAYER }));
    const idle = poolThat();
    const wrapper = ({ children }: { children: ReactNode }) => (
      <BenchProvider value={{ bench, viewer: idle, showPlace: () => undefined }}>{children}</BenchProvider>
    );
    const { result } = renderHook(() => usePlaceTool(), { wrapper });
    expect(result.current).toBeUndefined();
    act(() => bench.actions.take('place'));
    const before = bench.store.getState().history.past.length;
    const first = findLayer(bench.store.getState().history.project.layers, LAYER)?.place;
    const at = (x: number, y: number) => ({ x, y, pressure: 1 });
    act(() => result.current?.onStart(at(300, 180)));
    act(() => result.current?.onMove([at(330, 180), at(360, 210)]));
    act(() => result.current?.onMove([at(390, 240)]));
    act(() => result.current?.onEnd());
    const { project, past } = bench.store.getState().history;
    const after = findLayer(project.layers, LAYER)?.place;
    expect(after?.x).toBeCloseTo((first?.x ?? 0) + 90 / 600, 6);
    expect(after?.y).toBeCloseTo((first?.y ?? 0) + 60 / 600, 6);
    expect(past.length).toBe(before + 1);
  });
});
