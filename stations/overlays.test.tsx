import { describe, expect, jest, test } from '@jest/globals';
import { act, fireEvent, render, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type Draft, produce } from 'immer';
import { type ReactNode } from 'react';
import { type Layer, PLAIN_LAYER } from '@/core/layers/layer';
import { type Stroke } from '@/core/mask/stroke';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { EVERYWHERE, type RegionPart } from '@/core/region/region';
import { type Project } from '@/core/recipe/project';
import { ownerName } from '@/store/brushSide';
import { type MergedState } from '@/store/benchState';
import { baseOf, sampleFit, sampleFrame, sampleProject, withFits } from '@/tests/sampleProject';
import { benchOf, renderOnBench } from '@/tests/testBench';
import { BenchProvider } from './benchContext';
import { FinishOverlay } from './finish/Overlay';
import { followable } from '@/ui/followable';
import { addFrameLayer } from '@/store/edits/layers';
import { clearRegion, setRegion } from '@/store/edits/regions';
import { setHeld } from '@/store/edits/sets';
import { FitOverlay } from './fit/Overlay';
import { FramesOverlay } from './frames/Overlay';
import { LayersOverlay } from './layers/Overlay';
import { useBrush } from './layers/useBrush';
import { MergeOverlay } from './merge/Overlay';
import { WipeLine } from './overlay/WipeLine';
import { RegionMarks } from './regions/RegionMarks';

const user = userEvent.setup();
const table = { width: 600, height: 400 };
/** one screen pixel a picture pixel, the whole picture on the table */
const viewport = { zoom: 1, x: 300, y: 200 };

function merged(project: Project, movers: MergedState['movers'] = []): MergedState {
  const frames = project.frames.map((f) => f.id);
  return {
    key: 'k',
    scene: { levels: [], frames, shares: frames.map(() => new Uint8Array(60000)), noise: 0 },
    findings: [],
    movers,
  };
}

describe('the crop on the picture', () => {
  test('every grip moves by the arrow keys, one pixel or ten, within the picture', async () => {
    const project = {
      ...sampleProject(),
      geometry: { ...sampleProject().geometry, crop: { x: 100, y: 100, width: 200, height: 100 } },
    };
    const bench = renderOnBench(project, <FinishOverlay viewport={viewport} table={table} />);
    const crop = () => bench.store.getState().history.project.geometry.crop;
    act(() => screen.getByRole('button', { name: 'Right edge of the crop' }).focus());
    await user.keyboard('{ArrowRight}');
    expect(crop()).toEqual({ x: 100, y: 100, width: 201, height: 100 });
    await user.keyboard('{Shift>}{ArrowLeft}{/Shift}');
    expect(crop()).toEqual({ x: 100, y: 100, width: 191, height: 100 });
    act(() => screen.getByRole('button', { name: 'Whole crop of the crop' }).focus());
    await user.keyboard('{Shift>}{ArrowUp}{ArrowUp}{/Shift}');
    expect(crop()).toMatchObject({ x: 100, y: 80 });
    expect(screen.getAllByRole('button')).toHaveLength(9);
  });

  test('a dragged grip is one step of the history', () => {
    const project = {
      ...sampleProject(),
      geometry: { ...sampleProject().geometry, crop: { x: 100, y: 100, width: 200, height: 100 } },
    };
    const bench = renderOnBench(project, <FinishOverlay viewport={viewport} table={table} />);
    const grip = screen.getByRole('button', { name: 'Bottom right corner of the crop' });
    Object.assign(grip, { setPointerCapture: () => undefined });
    // jsdom's pointer events carry no place; a mouse event of their name does
    const send = (type: string, at: number): boolean =>
      fireEvent(grip, new MouseEvent(type, { bubbles: true, clientX: at, clientY: at - 100 }));
    send('pointerdown', 300);
    for (const at of [305, 311, 320]) send('pointermove', at);
    send('pointerup', 320);
    expect(bench.store.getState().history.project.geometry.crop).toEqual({
      x: 100,
      y: 100,
      width: 220,
      height: 120,
    });
    act(bench.actions.undo);
    expect(bench.store.getState().history.project.geometry.crop).toEqual({
      x: 100,
      y: 100,
      width: 200,
      height: 100,
    });
  });
});

describe('movers on the picture', () => {
  const mover = {
    box: { x: 100, y: 50, width: 60, height: 90 },
    seed: { x: 130, y: 95 },
    area: 0.02,
    frame: 1,
    stops: 1.2,
  };

  test('each says which frame makes it, and another can be chosen or all blended', async () => {
    const bench = renderOnBench(sampleProject(), <MergeOverlay viewport={viewport} table={table} />);
    act(() => {
      bench.store.setState({ merged: { set: merged(sampleProject(), [mover]) } });
      bench.actions.go({ look: 'result' });
    });
    await user.click(screen.getByRole('button', { name: 'Mover 1, from Frame 2' }));
    await user.click(screen.getByRole('menuitem', { name: /Frame 3/ }));
    const movers = () => baseOf(bench.store.getState().history.project).set.movers;
    expect(movers()).toEqual([{ x: 130, y: 95, frame: 'light' }]);
    await user.click(screen.getByRole('button', { name: /Mover 1/ }));
    await user.click(screen.getByRole('menuitem', { name: 'All frames, blended' }));
    expect(movers()).toHaveLength(2);
    expect(movers()[1].frame).toBe('');
  });

  test('only the largest are marked, and only where the merge itself is looked at', () => {
    const many = Array.from({ length: 30 }, (_, i) => ({ ...mover, area: 0.001 * (i + 1) }));
    const bench = renderOnBench(sampleProject(), <MergeOverlay viewport={viewport} table={table} />);
    act(() => {
      bench.store.setState({ merged: { set: merged(sampleProject(), many) } });
      bench.actions.go({ look: 'origin' });
    });
    expect(screen.getAllByRole('button')).toHaveLength(14);
    expect(screen.getByLabelText('Colours of the frames')).toHaveTextContent('Frame 1Frame 2Frame 3');
    act(() => bench.actions.go({ look: 'wipe' }));
    expect(screen.queryAllByRole('button')).toHaveLength(0);
  });
});

describe('marks of other stations', () => {
  test('the residual has an arrow a place and a scale', () => {
    const project = sampleProject();
    const tiles = [
      { x: 100, y: 100, dx: 0.1, dy: 0, error: 0.01 },
      { x: 300, y: 200, dx: 0, dy: 0.5, error: 0.01 },
    ];
    const fits = withFits(project, { dark: sampleFit(0, 0, { tiles }), mid: sampleFit(0, 0) });
    const bench = renderOnBench(fits, <FitOverlay viewport={viewport} table={table} />);
    expect(document.querySelectorAll('circle')).toHaveLength(0);
    act(() => bench.actions.go({ look: 'residual', frame: 'dark', gain: 8 }));
    expect(document.querySelectorAll('circle')).toHaveLength(2);
    expect(screen.getByText(/−16/)).toHaveTextContent('+16 codes of 255');
    expect(screen.getByText('arrows × 200')).toBeInTheDocument();
  });

  test('the part that the fit is held on is marked in every view', () => {
    const bench = renderOnBench(sampleProject(), <FitOverlay viewport={viewport} table={table} />);
    expect(document.querySelectorAll('path')).toHaveLength(0);
    act(() => bench.actions.edit('held', setHeld('set', { x: 50, y: 60, width: 200, height: 100 })));
    expect(document.querySelectorAll('path')).toHaveLength(2);
  });

  test('clipping is marked where it is worst', () => {
    const project = sampleProject();
    const at = { x: 10, y: 20, width: 50, height: 50 };
    const frames = project.frames.map((f) => ({ ...f, clipped: { light: 0.1, dark: 0, lightAt: at } }));
    const bench = renderOnBench({ ...project, frames }, <FramesOverlay viewport={viewport} table={table} />);
    act(() => bench.actions.go({ look: 'clipping', frame: 'light' }));
    expect(document.querySelectorAll('path')).toHaveLength(2);
  });

  test('the brush shows its size and whether it reveals or hides', () => {
    const pointer = followable({ x: 300, y: 200 });
    const bench = renderOnBench(
      sampleProject(),
      <LayersOverlay viewport={viewport} table={table} pointer={pointer} longEdge={600} />,
    );
    // 8 % of the long edge
    expect(document.querySelector('circle')).toHaveAttribute('r', '24');
    const cross = document.querySelector('path')?.getAttribute('d');
    act(() =>
      bench.actions.go({
        station: 'layers',
        brush: { size: 0.1, softness: 1, flow: 1 },
        sides: { [ownerName({ kind: 'layer', layer: bench.store.getState().session.layer })]: 'hide' },
      }),
    );
    expect(document.querySelector('circle')).toHaveAttribute('r', '30');
    expect(document.querySelector('path')?.getAttribute('d')).not.toBe(cross);
  });

  test('the wipe line moves by the arrow keys and stays on the picture', async () => {
    const onMove = jest.fn();
    const line = (at: number) => (
      <WipeLine
        at={at}
        onMove={onMove}
        left="A"
        right="B"
        viewport={viewport}
        table={table}
        picture={{ width: 600, height: 400 }}
      />
    );
    const { rerender } = render(line(300));
    act(() => screen.getByRole('slider', { name: 'Wipe line' }).focus());
    await user.keyboard('{ArrowRight}');
    expect(onMove).toHaveBeenLastCalledWith(320);
    rerender(line(595));
    await user.keyboard('{ArrowRight}');
    expect(onMove).toHaveBeenLastCalledWith(600);
  });
});

const OWNER = { kind: 'layer', layer: 'l1' } as const;

describe('the brush', () => {
  const withLayer = (): Project =>
    produce(sampleProject(), (draft) => {
      addFrameLayer('l1', sampleFrame('dark', -2))(draft);
      clearRegion(OWNER, 'nowhere')(draft);
      setRegion(OWNER, { feather: 0.01 })(draft);
    });
  const strokesOf = ({ layers }: Project): readonly Stroke[] => {
    const { where } = layers[1];
    return typeof where !== 'object'
      ? []
      : where.parts.flatMap(({ part }) => (part.kind === 'strokes' ? part.settings.strokes : []));
  };
  const brushOn = (project: Project) => {
    const bench = benchOf(project);
    act(() => {
      bench.store.setState({ merged: { set: merged(project) } });
      bench.actions.go({ station: 'layers', look: 'result', layer: 'l1' });
    });
    const value = { bench, viewer: bench.pool, showPlace: () => undefined };
    const wrapper = ({ children }: { children: ReactNode }) => (
      <BenchProvider value={value}>{children}</BenchProvider>
    );
    return { bench, hook: renderHook(() => useBrush(), { wrapper }) };
  };

  test('a stroke is one step, in fractions of the long edge, with the pressure of the pen', () => {
    const { bench, hook } = brushOn(withLayer());
    act(() => hook.result.current?.onStart({ x: 60, y: 120, pressure: 0.5 }));
    expect(bench.store.getState().live?.owner).toEqual(OWNER);
    act(() =>
      hook.result.current?.onMove([
        { x: 60.1, y: 120, pressure: 0.5 },
        { x: 180, y: 120, pressure: 1 },
      ]),
    );
    // what has to be drawn anew reaches beyond the brush by what the feather spreads
    expect(bench.store.getState().live?.touched).toMatchObject({ y: expect.closeTo(120 - 24 - 18, 6) });
    act(() => hook.result.current?.onEnd());
    const { history, live } = bench.store.getState();
    expect(live).toBeUndefined();
    const [stroke] = strokesOf(history.project);
    // the sample a tenth of a pixel on adds nothing
    expect(stroke.points).toEqual([
      [0.1, 0.2, 0.5],
      [0.3, 0.2, 1],
    ]);
    expect(history.past[history.past.length - 1].label).toBe('Revealed in dark');
    act(bench.actions.undo);
    expect(strokesOf(bench.store.getState().history.project)).toEqual([]);
  });

  /** The points of the only stroke, full-size pixels. */
  const drawn = (bench: ReturnType<typeof brushOn>['bench']) =>
    strokesOf(bench.store.getState().history.project)[0].points.map(([x, y]) => [600 * x, 600 * y]);
  const at = (x: number, y: number, straight = false) => ({ x, y, pressure: 1, straight });

  test('a brush that stays on what it started on says so of its stroke, and draws anew as far around as it learns', () => {
    const { bench, hook } = brushOn(withLayer());
    const touched = () => bench.store.getState().live?.touched.width ?? 0;
    act(() => hook.result.current?.onStart(at(200, 200)));
    const plain = touched();
    act(() => hook.result.current?.onEnd());
    act(() => bench.actions.go({ brush: { ...bench.store.getState().session.brush, inside: true } }));
    act(() => hook.result.current?.onStart(at(200, 200)));
    expect(bench.store.getState().live?.stroke.inside).toBe(true);
    // a brush of 48 px: as much again and a quarter to either side
    expect(touched()).toBeCloseTo(plain + 2 * 1.25 * 48, 6);
    act(() => hook.result.current?.onEnd());
    expect(strokesOf(bench.store.getState().history.project).map((s) => s.inside ?? false)).toEqual([
      false,
      true,
    ]);
  });

  test('a stroke that a second finger takes back leaves nothing: no step, and nothing drawn', () => {
    const { bench, hook } = brushOn(withLayer());
    const steps = bench.store.getState().history.past.length;
    act(() => hook.result.current?.onStart(at(60, 120)));
    act(() => hook.result.current?.onMove([at(90, 150)]));
    act(() => hook.result.current?.onCancel?.());
    act(() => hook.result.current?.onEnd());
    expect(bench.store.getState().live).toBeUndefined();
    expect(bench.store.getState().history.past).toHaveLength(steps);
    expect(strokesOf(bench.store.getState().history.project)).toEqual([]);
  });

  test('shift draws straight on from where it is pressed, whatever way the hand takes', () => {
    const { bench, hook } = brushOn(withLayer());
    act(() => hook.result.current?.onStart(at(60, 120)));
    act(() => hook.result.current?.onMove([at(90, 150)]));
    act(() => hook.result.current?.onMove([at(120, 300, true), at(200, 250, true)]));
    // where the line lay before it turned is drawn anew too
    expect(bench.store.getState().live?.touched).toMatchObject({ y: expect.closeTo(150 - 24 - 18, 6) });
    act(() => hook.result.current?.onMove([at(240, 150, true)]));
    act(() => hook.result.current?.onEnd());
    expect(drawn(bench)).toEqual([
      [60, 120],
      [90, 150],
      [240, 150],
    ]);
  });

  test('a steady hand leaves out what trembles, and the line ends where the hand does', () => {
    const { bench, hook } = brushOn(withLayer());
    // a string as long as half the brush of 48 px
    act(() => bench.actions.go({ brush: { ...bench.store.getState().session.brush, steady: 0.5 } }));
    act(() => hook.result.current?.onStart(at(60, 120)));
    const tremble = Array.from({ length: 40 }, (_, k) => at(60 + 6 * k, 120 + (k % 2 ? 9 : -9)));
    act(() => hook.result.current?.onMove([...tremble, at(300, 120)]));
    const behind = bench.store.getState().live?.stroke.points.at(-1)?.[0] ?? 0;
    expect(600 * behind).toBeCloseTo(300 - 24, 0);
    act(() => hook.result.current?.onEnd());
    const points = drawn(bench);
    expect(points.at(-1)).toEqual([300, 120]);
    for (const [, y] of points) expect(Math.abs(y - 120)).toBeLessThan(6);
  });

  test('with n held, a drag and the arrows shape the brush, and nothing is drawn', () => {
    const { bench, hook } = brushOn(withLayer());
    const brush = () => bench.store.getState().session.brush;
    fireEvent.keyDown(window, { key: 'n' });
    act(() => hook.result.current?.onStart(at(100, 100)));
    // 15 px to the right: 30 px wider; 24 px down, half as far as the brush was wide: a quarter harder
    act(() => hook.result.current?.onMove([at(115, 124)]));
    expect(brush().size).toBeCloseTo(0.13, 9);
    expect(brush().softness).toBe(0.75);
    act(() => hook.result.current?.onEnd());
    expect(strokesOf(bench.store.getState().history.project)).toEqual([]);
    act(() => void fireEvent.keyDown(window, { key: 'ArrowLeft' }));
    act(() => void fireEvent.keyDown(window, { key: 'ArrowUp' }));
    expect(brush().size).toBeCloseTo(0.13 / 2 ** 0.25, 9);
    expect(brush().softness).toBeCloseTo(0.8, 9);
    fireEvent.keyUp(window, { key: 'n' });
    act(() => void fireEvent.keyDown(window, { key: 'ArrowUp' }));
    expect(brush().softness).toBeCloseTo(0.8, 9);
    act(() => hook.result.current?.onStart(at(100, 100)));
    act(() => hook.result.current?.onEnd());
    expect(strokesOf(bench.store.getState().history.project)).toHaveLength(1);
  });

  test('there is no brush before the merge, nor on a layer that is not shown', () => {
    const { bench, hook } = brushOn(withLayer());
    expect(hook.result.current).toBeDefined();
    act(() => bench.actions.edit('Hid', (draft) => void (draft.layers[1].shown = false)));
    expect(hook.result.current).toBeUndefined();
    act(() => bench.store.setState({ merged: {} }));
    expect(hook.result.current).toBeUndefined();
  });
});

describe('the parts of a region on the picture', () => {
  const part = (kind: 'gradient' | 'ellipse' | 'tone', settings: object, on = true) =>
    ({ how: 'add', turned: false, on, part: { kind, settings } }) as RegionPart;
  const project = (): Project =>
    produce(sampleProject(), (draft) => {
      const where = {
        ...EVERYWHERE,
        ...{ id: 'w', name: '' },
        parts: [
          part('gradient', { x0: 0.1, y0: 0.1, x1: 0.1, y1: 0.4 }),
          part('ellipse', { x: 0.5, y: 0.3, across: 0.2, down: 0.1, turn: 0, soft: 0.5 }),
          part('ellipse', { x: 0.5, y: 0.3, across: 0.2, down: 0.1, turn: 0, soft: 0.5 }, false),
          part('tone', { from: -1, to: 1, soft: 1 }),
        ],
      };
      draft.layers.push({
        ...PLAIN_LAYER,
        id: 'l1',
        name: 'Evening',
        kind: 'beneath',
        where,
      } as Draft<Layer>);
    });

  test('what is drawn is marked where it lies while its region is open; ranges and parts that do not count are not', () => {
    const bench = renderOnBench(project(), <RegionMarks viewport={viewport} table={table} />);
    expect(document.querySelectorAll('path')).toHaveLength(0);
    act(() => bench.actions.go({ station: 'layers', layer: 'l1', layerPart: 'where' }));
    const paths = [...document.querySelectorAll('path[stroke="#fff"]')].map((p) => p.getAttribute('d') ?? '');
    expect(paths).toHaveLength(2);
    const long = longEdgeOf(project());
    // from where all of it counts
    expect(paths[0].startsWith(`M${0.1 * long} ${0.1 * long}L`)).toBe(true);
    const rim = [...paths[1].matchAll(/[ML]([\d.-]+) ([\d.-]+)/g)].map(([, x, y]) => [Number(x), Number(y)]);
    const [xs, ys] = [rim.map(([x]) => x), rim.map(([, y]) => y)];
    expect(Math.max(...xs)).toBeCloseTo(0.7 * long, 6);
    expect(Math.min(...ys)).toBeCloseTo(0.2 * long, 6);
    act(() => bench.actions.go({ layerPart: 'edits' }));
    expect(document.querySelectorAll('path')).toHaveLength(0);
  });
});
