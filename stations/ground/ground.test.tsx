import { describe, expect, test } from '@jest/globals';
import { act, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode } from 'react';
import { type LightRig } from '@/core/ground/light';
import { findLayer } from '@/core/layers/layer';
import { parseProject } from '@/core/recipe/parseProject';
import { type Bench } from '@/store/benchState';
import { addPlates } from '@/store/edits/frames';
import { setLayer, setPlace } from '@/store/edits/layers';
import { setCamera, setLines, setStand, standPlate } from '@/store/edits/stand';
import { platesOnGround } from '@/store/standingPlates';
import { stationFindings } from '@/store/stationFindings';
import { poolThat } from '@/tests/poolThat';
import { sampleFrame, sampleProject } from '@/tests/sampleProject';
import { benchOf, renderOnBench } from '@/tests/testBench';
import { BenchProvider } from '../benchContext';
import { GroundPanel } from './Panel';
import { groundHandles, handleAt } from './groundHandles';
import { GroundTray } from './Tray';
import { useGroundTool } from './useGroundTool';

const user = userEvent.setup();
const heron = sampleFrame('heron', 0, { file: 'heron.png', width: 180, height: 240 });
const LAYER = 'plate-heron';

const EVEN: LightRig = { sky: [1, 1, 1], bounce: [0, 0, 0], lamps: [] };
const SUNNY: LightRig = { ...EVEN, sun: { azimuth: -60, elevation: 25, colour: [3, 3, 2] } };

/** A heron that stands in a picture of 600 × 400 whose horizon lies in row 120. */
const standing = (light: LightRig, unlit = false) =>
  standPlate(LAYER, {
    space: {
      camera: { focal: 1, principal: [0.5, 0.3], horizon: 0.2, height: 1.5 },
      light,
      ...(unlit ? { unlit } : {}),
    },
    stand: { foot: [0.4, 0.9], light: EVEN, water: false, relight: unlit ? 0 : 1, shadow: unlit ? 0 : 1 },
    place: { x: 0.5, y: 0.4, size: 0.3, turn: 0, mirrored: false },
    ...(unlit ? { stops: 0.5 } : {}),
  });

function stood(bench: Bench, light = SUNNY, unlit = false): void {
  act(() => bench.actions.edit('Added', addPlates([heron])));
  act(() => bench.actions.go({ layer: LAYER, station: 'ground' }));
  act(() => bench.actions.edit('Stood', standing(light, unlit)));
}

/** The tool in hand on a bench. */
function toolOn(bench: Bench) {
  const idle = poolThat();
  return renderHook(() => useGroundTool(), {
    wrapper: ({ children }: { children: ReactNode }) => (
      <BenchProvider value={{ bench, viewer: idle, showPlace: () => undefined }}>{children}</BenchProvider>
    ),
  });
}

describe('the ground', () => {
  test('what the camera was told by stays when a plate is made to belong; a number set by hand is no longer uncertain', () => {
    const bench = renderOnBench(sampleProject(), <GroundPanel />);
    stood(bench);
    const space = () => bench.store.getState().history.project.space;
    const camera = space()?.camera;
    if (!camera) throw new Error('it has a space');
    const lines = [
      { from: [0.1, 0.1], to: [0.1, 0.3], family: 'upright' },
      { from: [0.8, 0.1], to: [0.8, 0.3], family: 'upright', drawn: true },
    ] as const;
    const spread = { horizon: 0.01, roll: 0.2, focal: 0.03 };
    act(() => bench.actions.edit('Lines', setLines(lines, { camera: { ...camera, roll: 1 }, spread })));
    expect(screen.getByText(/^Told by 2 upright and 0 level lines: horizon ±1\.5 %/)).toBeInTheDocument();
    act(() => bench.actions.edit('Stood', standing(SUNNY)));
    expect(space()).toMatchObject({ lines, spread });
    act(() => bench.actions.edit('Horizon', setCamera({ horizon: 0.25 })));
    expect(space()?.spread).toEqual({ roll: 0.2, focal: 0.03 });
    const project = bench.store.getState().history.project;
    expect(parseProject(JSON.parse(JSON.stringify(project)), 'kept').space).toEqual(project.space);
  });

  test('that stands on the ground says how far away, and takes light, shadow and sun by numbers, each a step', async () => {
    const bench = renderOnBench(sampleProject(), <GroundPanel />);
    act(() => bench.actions.edit('Added', addPlates([heron])));
    act(() => bench.actions.go({ layer: LAYER, station: 'ground' }));
    expect(screen.queryByRole('heading', { name: 'How heron stands' })).toBeNull();
    const light: LightRig = {
      sun: { azimuth: -60, elevation: 25, colour: [3, 3, 2] },
      ...{ sky: [1, 1, 1], bounce: [0, 0, 0], lamps: [] },
    };
    const { sun: _, ...even } = light;
    const made = {
      space: { camera: { focal: 1, principal: [0.5, 0.3], horizon: 0.2, height: 1.5 }, light },
      stand: { foot: [0.4, 0.9], light: even, water: false, relight: 1, shadow: 1 },
      place: { x: 0.5, y: 0.4, size: 0.3, turn: 0, mirrored: false },
    } as const;
    act(() => bench.actions.edit('Stood', standPlate(LAYER, made)));
    expect(screen.getByText(/^Its foot is \d+\.\d m away/)).toBeInTheDocument();
    const key = async (name: string, keys: string) => {
      const slider = await screen.findByRole('slider', { name });
      act(() => slider.focus());
      await user.keyboard(keys);
    };
    const now = () => bench.store.getState().history.project;
    const stand = () => findLayer(now().layers, LAYER)?.stand;
    await key('Into this light', '{ArrowLeft}');
    expect(stand()?.relight).toBeCloseTo(0.99, 9);
    await key('Sun from', '{ArrowRight}');
    expect(await screen.findByText('59° left')).toBeInTheDocument();
    await key('Sun’s height', '{ArrowRight}');
    expect(now().space?.light.sun).toMatchObject({ azimuth: -59, elevation: 26 });
    await user.click(screen.getByLabelText('In water'));
    await key('Mirror image', '{ArrowLeft}');
    expect(stand()).toMatchObject({ water: true, shadow: expect.closeTo(0.99, 9) });
    expect(parseProject(JSON.parse(JSON.stringify(now())), 'kept')).toEqual(now());
    act(() => bench.actions.edit('Up', setPlace(LAYER, { y: -0.2 })));
    expect(await screen.findByText(/lies above the horizon/)).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Lift it off the ground' }));
    expect(stand()).toBeUndefined();
    act(bench.actions.undo);
    expect(stand()).toBeDefined();
  });

  test('a picture of whose light nothing is known gets a sun, and plates take it and cast shadows', async () => {
    const bench = renderOnBench(sampleProject(), <GroundPanel />);
    stood(bench, EVEN, true);
    const now = () => bench.store.getState().history.project;
    const layer = () => findLayer(now().layers, LAYER);
    expect(screen.getByText(/Nothing is known of the picture’s light/)).toBeInTheDocument();
    expect(layer()?.edits).toHaveLength(1);
    const slider = screen.getByRole('slider', { name: 'Sun from' });
    act(() => slider.focus());
    await user.keyboard('{ArrowLeft}');
    expect(now().space?.unlit).toBeUndefined();
    expect(now().space?.light.sun?.azimuth).toBe(-1);
    expect(layer()?.stand).toMatchObject({ relight: 0.75, shadow: 1 });
    expect(layer()?.edits).toHaveLength(0);
    await user.click(await screen.findByRole('button', { name: 'No sun' }));
    expect(now().space?.light).not.toHaveProperty('sun');
    // the ground is as light as it was
    now().space?.light.sky.forEach((v) => expect(v).toBeCloseTo(1, 6));
  });

  test('the worst of a plate is mended in one press', async () => {
    const bench = renderOnBench(sampleProject(), <GroundPanel />);
    stood(bench);
    const stand = () => findLayer(bench.store.getState().history.project.layers, LAYER)?.stand;
    expect(screen.getByRole('button', { name: /heron belongs/ })).toBeInTheDocument();
    act(() => bench.actions.edit('Without', setStand(LAYER, { shadow: 0 })));
    await user.click(await screen.findByRole('button', { name: 'Give it its shadow' }));
    expect(stand()?.shadow).toBe(1);
    act(() => bench.actions.edit('Pale', setLayer(LAYER, { opacity: 0.5 })));
    expect(await screen.findByRole('button', { name: /heron is seen through/ })).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Make it opaque' }));
    expect(await screen.findByRole('button', { name: /heron belongs/ })).toBeInTheDocument();
  });

  test('a plate that is lit from the other side is mirrored about its foot', async () => {
    const bench = renderOnBench(sampleProject(), <GroundPanel />);
    stood(bench);
    act(() =>
      bench.actions.edit('Shot elsewhere', (draft) => {
        const stand = findLayer(draft.layers, LAYER)?.stand;
        if (stand)
          Object.assign(stand, { light: { ...SUNNY, sun: { ...SUNNY.sun, azimuth: 70 } }, relight: 0 });
      }),
    );
    const [before] = platesOnGround(bench.store.getState().history.project);
    expect(await screen.findByRole('button', { name: /heron is lit from elsewhere/ })).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Mirror it' }));
    const [after] = platesOnGround(bench.store.getState().history.project);
    expect(after.layer.place?.mirrored).toBe(true);
    after.foot?.forEach((v, i) => expect(v).toBeCloseTo(before.foot?.[i] ?? -1, 6));
    expect(await screen.findByRole('button', { name: /heron belongs/ })).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: 'Mirror it' })).toBeNull();
  });

  test('is laid under a picture of which nothing is known, and plates in the sky are told by their angle', async () => {
    const bench = renderOnBench(sampleProject(), <GroundPanel />);
    await user.click(screen.getByRole('button', { name: 'Lay the ground' }));
    act(() => bench.actions.edit('Added', addPlates([heron])));
    act(() => bench.actions.edit('Up', setPlace(LAYER, { y: 0.1, size: 0.1 })));
    // 0.1 of the long edge at a focal length of 1: 2·atan(0.05)
    expect(await screen.findByText(/in the sky, 5\.72° across, 10\.8 × the real moon/)).toBeInTheDocument();
    const { history, ...state } = bench.store.getState();
    expect(stationFindings({ ...state, history }, 'ground')?.map((f) => f.verdict)).toEqual(['pass', 'pass']);
  });

  test('a yardstick whose height is known sets the eye, and one that is taken away is gone', async () => {
    const bench = renderOnBench(sampleProject(), <GroundPanel />);
    stood(bench);
    act(() => bench.actions.take('yardstick'));
    const { result } = toolOn(bench);
    act(() => {
      result.current.tool?.onStart({ x: 200, y: 300, pressure: 1 });
      result.current.tool?.onMove([{ x: 203, y: 130, pressure: 1 }]);
    });
    expect(result.current.drawn).toEqual({ line: [200, 300, 203, 130] });
    act(() => result.current.tool?.onEnd());
    const space = () => bench.store.getState().history.project.space;
    expect(space()?.yardsticks).toHaveLength(1);
    const field = await screen.findByRole('textbox', { name: 'Yardstick 1' });
    await user.clear(field);
    await user.type(field, '2{Enter}');
    // the horizon in row 120 lies ten pixels above its top: the eye is a little over two metres up
    expect(space()?.camera.height).toBeGreaterThan(2);
    expect(space()?.camera.height).toBeLessThan(2.3);
    await user.click(screen.getByRole('button', { name: 'Take yardstick 1 away' }));
    expect(space()?.yardsticks).toEqual([]);
  });

  test('the first of two places goes with the tool that took it', () => {
    const bench = benchOf(sampleProject());
    stood(bench);
    const { result } = toolOn(bench);
    const press = () => act(() => result.current.tool?.onStart({ x: 40, y: 300, pressure: 1 }));
    act(() => bench.actions.take('lit and shaded'));
    press();
    expect(result.current.drawn).toEqual({ first: [40, 300] });
    act(() => bench.actions.take(undefined));
    act(() => bench.actions.take('near and far'));
    expect(result.current.drawn).toBeUndefined();
    press();
    // it is a first one again
    expect(bench.store.getState().tool).toBe('near and far');
  });

  test('what is pulled on the picture: the horizon, a foot whose plate grows with it, and a shadow that the sun follows', () => {
    const bench = benchOf(sampleProject());
    stood(bench);
    act(() => bench.actions.take('ground'));
    const { result } = toolOn(bench);
    const project = () => bench.store.getState().history.project;
    const handles = () => {
      const { space } = project();
      const plates = platesOnGround(project());
      return space ? groundHandles(space, plates, plates[0].grid) : [];
    };
    const pull = (kind: 'foot' | 'tip' | 'horizon', by: readonly [number, number]): void => {
      const from = handles().find((h) => h.kind === kind);
      if (!from) throw new Error('it has no such handle');
      const [x, y] = from.at;
      act(() => {
        result.current.tool?.onStart({ x, y, pressure: 1 });
        result.current.tool?.onMove([{ x: x + by[0], y: y + by[1], pressure: 1 }]);
        result.current.tool?.onEnd();
      });
    };
    const [before] = platesOnGround(project());
    pull('foot', [30, 25]);
    const [after] = platesOnGround(project());
    expect(after.foot?.[0]).toBeCloseTo((before.foot?.[0] ?? 0) + 30, 6);
    expect(after.tall).toBeCloseTo(before.tall ?? 0, 6);
    expect(after.layer.place?.size).toBeGreaterThan(before.layer.place?.size ?? 1);
    pull('tip', [-20, 5]);
    expect(project().space?.light.sun?.azimuth).not.toBe(-60);
    pull('horizon', [0, -30]);
    expect(project().space?.camera.horizon).toBeCloseTo(0.15, 9);
    // each pull is one step
    expect(bench.store.getState().history.past).toHaveLength(5);
    expect(handleAt(handles(), [5, 5], 10)).toBeUndefined();
  });

  test('is seen from the side, where a plate is chosen', async () => {
    const bench = renderOnBench(sampleProject(), <GroundTray />);
    expect(screen.getByText(/stands here at its distance/)).toBeInTheDocument();
    stood(bench);
    act(() => bench.actions.go({ layer: 'merge' }));
    await user.click(screen.getByText('heron'));
    expect(bench.store.getState().session.layer).toBe(LAYER);
  });
});
