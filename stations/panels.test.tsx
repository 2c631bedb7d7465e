import { describe, expect, jest, test } from '@jest/globals';
import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { findLayer } from '@/core/layers/layer';
import { emptyProject } from '@/core/recipe/emptyProject';
import { setGraph } from '@/core/recipe/setGraph';
import { renderOnBench } from '@/tests/testBench';
import { addFill } from '@/store/edits/layers';
import { brushSide } from '@/store/brushSide';
import { addStroke } from '@/store/edits/regions';
import { exposureOf } from '@/tests/exposed';
import { baseOf, sampleFit, sampleProject, withFits } from '@/tests/sampleProject';
import { FinishPanel } from './finish/Panel';
import { FitPanel } from './fit/Panel';
import { FitTray } from './fit/Tray';
import { FramesPanel } from './frames/Panel';
import { FramesTray } from './frames/Tray';
import { LAYERS_TEXT as TEXT } from './layers/text';
import { REGION_TEXT } from './regions/text';
import { LayersPanel } from './layers/Panel';
import { LayersTray } from './layers/Tray';
import { MergePanel } from './merge/Panel';

const user = userEvent.setup();

describe('Frames', () => {
  test('says why the set is what it is, and lets another frame be the reference', async () => {
    const bench = renderOnBench(
      sampleProject(),
      <>
        <FramesPanel />
        <FramesTray />
      </>,
    );
    expect(screen.getByText('because')).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Frame 3, light.jpg' }));
    expect(screen.getByText('1/15')).toBeInTheDocument();
    expect(screen.getByText('+2.0 EV')).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Fit the others to this frame' }));
    expect(baseOf(bench.store.getState().history.project).set).toMatchObject({
      reference: 'light',
      referenceChosen: true,
    });
    await user.click(screen.getByRole('button', { name: 'Take out of the project' }));
    expect(bench.store.getState().history.project.frames).toHaveLength(2);
    act(bench.actions.undo);
    expect(bench.store.getState().history.project.frames).toHaveLength(3);
  });

  test('what the lens did is taken back in all frames alike, and can be left as shot', async () => {
    const bench = renderOnBench(sampleProject(), <FramesPanel />);
    const prepare = () => baseOf(bench.store.getState().history.project).set.prepare;
    await user.click(screen.getByLabelText('Take back what the lens did'));
    act(() => screen.getByRole('slider', { name: 'Bending' }).focus());
    await user.keyboard('{ArrowLeft}{ArrowLeft}');
    expect(prepare().lens?.distortion).toBeCloseTo(-0.002, 6);
    // other settings of the preparation do not undo it
    await user.click(screen.getByLabelText('Even out the white balance'));
    expect(prepare()).toMatchObject({ balance: 'even', lens: { vignette: 0 } });
    await user.click(screen.getByLabelText('Take back what the lens did'));
    expect(prepare()).toEqual({ balance: 'even' });
  });

  test('dust that was found can be taken out of all frames, and is no fault then', async () => {
    const bench = renderOnBench(sampleProject(), <FramesPanel />);
    const set = () => baseOf(bench.store.getState().history.project).set;
    expect(screen.queryByLabelText('Take out the dust')).not.toBeInTheDocument();
    const measures = setGraph(baseOf(bench.store.getState().history.project)).measures;
    const frames = bench.store.getState().history.project.frames.map(() => undefined);
    const value = {
      dust: [{ x: 300, y: 200, frames: 3 }],
      shades: [{ x: 0, y: 0, size: 2, cell: 1, values: new Float32Array(4) }],
      ...{ balance: frames, stops: frames },
    };
    act(() => bench.store.setState({ made: { [measures]: { is: 'fact', value } } }));
    expect(screen.getByRole('button', { name: /Dust on the sensor\s*1/ })).toBeInTheDocument();
    await user.click(screen.getByLabelText('Take out the dust'));
    expect(set().prepare).toEqual({ balance: 'shot', dust: true });
    expect(screen.getByRole('button', { name: /Dust on the sensor\s*0/ })).toBeInTheDocument();
    await user.click(screen.getByLabelText('Take out the dust'));
    expect(set().prepare).toEqual({ balance: 'shot' });
  });

  test('an empty project says what to do', () => {
    renderOnBench(emptyProject('e', 'Empty', '2026-01-01T00:00:00Z'), <FramesPanel />);
    expect(screen.getByText(/Drop the shots of one picture/)).toBeInTheDocument();
  });
});

describe('Fit', () => {
  test('a finding opens its sentence and goes to its place', async () => {
    const showPlace = jest.fn();
    const project = sampleProject();
    const fits = withFits(project, {
      dark: sampleFit(0, 0, {
        residual: { typical: 0.1, worst: 2 },
        tiles: [{ x: 320, y: 220, dx: 2, dy: 0, error: 0.1 }],
      }),
      mid: sampleFit(0, 0),
      light: sampleFit(0, 0),
    });
    renderOnBench(fits, <FitPanel />, showPlace);
    const row = screen.getByRole('button', { name: /Worst place/ });
    expect(within(row).getByRole('img', { name: 'to be watched' })).toBeInTheDocument();
    await user.click(row);
    expect(showPlace).toHaveBeenCalledWith({ x: 200, y: 100, width: 240, height: 240 }, undefined);
    expect(screen.getByText(/Something moved, or stands nearer/)).toBeInTheDocument();
    await user.click(row);
    expect(screen.queryByText(/Something moved, or stands nearer/)).not.toBeInTheDocument();
  });

  test('a frame of a tripod is said to be left as it is, another how it was moved', () => {
    const fitted = (dx: number) =>
      withFits(sampleProject(), {
        dark: sampleFit(dx, 0),
        mid: sampleFit(0, 0),
        light: sampleFit(dx, 0),
      });
    const first = renderOnBench(fitted(0), <FitPanel />);
    expect(screen.getByText(/stood still, so nothing of it is resampled/)).toBeInTheDocument();
    void first.actions.close();
    renderOnBench(fitted(3), <FitPanel />);
    expect(screen.getByText(/was shifted/)).toBeInTheDocument();
  });

  test('the way to move is one of four, and the tray says how each frame fared', async () => {
    const bench = renderOnBench(
      sampleProject(),
      <>
        <FitPanel />
        <FitTray />
      </>,
    );
    expect(screen.getByText('held still')).toBeInTheDocument();
    expect(screen.getAllByText('0.05 to 0.20 px')).toHaveLength(2);
    await user.click(screen.getByRole('radio', { name: 'Perspective' }));
    expect(baseOf(bench.store.getState().history.project).set.motion).toBe('perspective');
    expect(screen.getAllByText('waiting')).toHaveLength(3);
  });
});

describe('Merge', () => {
  test('a measure changes the recipe when the hand lets go', async () => {
    const bench = renderOnBench(sampleProject(), <MergePanel />);
    expect(screen.getByText(/Nothing is merged yet/)).toBeInTheDocument();
    act(() =>
      bench.store.setState({ work: { text: 'Merging 3 frames', done: 0.4, cancel: () => undefined } }),
    );
    expect(screen.getByText(/In the making/)).toBeInTheDocument();
    act(() => screen.getByRole('slider', { name: 'Fine detail' }).focus());
    await user.keyboard('{ArrowLeft}{ArrowLeft}');
    expect(baseOf(bench.store.getState().history.project).set.merge.contrast).toBeCloseTo(0.9, 6);
  });
});

describe('Layers', () => {
  test('a frame is added hidden, changed, moved and removed; the merge stays', async () => {
    const bench = renderOnBench(
      sampleProject(),
      <>
        <LayersPanel />
        <LayersTray />
      </>,
    );
    const layers = () => bench.store.getState().history.project.layers;
    await user.click(screen.getByRole('button', { name: TEXT.choose }));
    await user.click(screen.getByRole('menuitem', { name: /Frame 1/ }));
    expect(layers()[1]).toMatchObject({ name: 'dark', where: { parts: [{ how: 'add' }] } });
    expect(screen.getByRole('row', { name: 'Layer dark' })).toHaveAttribute('aria-selected', 'true');
    await user.click(screen.getByRole('radio', { name: TEXT.parts.layer }));
    await user.click(screen.getByRole('button', { name: /Blended by/ }));
    await user.click(screen.getByRole('option', { name: 'Screen' }));
    await user.click(screen.getByRole('radio', { name: TEXT.parts.where }));
    await user.click(screen.getByRole('button', { name: REGION_TEXT.all }));
    expect(layers()[1]).toMatchObject({ blend: 'screen' });
    expect(layers()[1].where).toBeUndefined();
    await user.click(screen.getByRole('radio', { name: 'Hide' }));
    const sideOf = (layer: string) => brushSide(bench.store.getState(), { kind: 'layer', layer });
    expect(sideOf(layers()[1].id)).toBe('hide');
    // another region keeps its own side
    expect(sideOf(layers()[0].id)).toBe('reveal');
    await user.click(screen.getByRole('radio', { name: TEXT.parts.layer }));
    await user.click(screen.getByRole('button', { name: TEXT.farther }));
    expect(layers().map((l) => l.name)).toEqual(['dark', 'Merge']);
    await user.click(screen.getByRole('button', { name: 'Remove' }));
    expect(layers().map((l) => l.name)).toEqual(['Merge']);
    await user.click(screen.getByRole('row', { name: 'Layer Merge' }));
    expect(screen.getByRole('button', { name: 'Remove' })).toBeDisabled();
  });
});

describe('a layer that is painted in', () => {
  const open = () => {
    const bench = renderOnBench(sampleProject(), <LayersPanel />);
    const layer = (id: string) => findLayer(bench.store.getState().history.project.layers, id);
    const strokes = () => {
      const where = layer('top')?.where;
      const part = typeof where === 'object' ? where.parts.at(-1)?.part : undefined;
      return part?.kind === 'strokes' ? part.settings.strokes : [];
    };
    act(() => {
      bench.actions.edit('layers', (draft) => {
        for (const id of ['under', 'top'])
          addFill(id, id, { kind: 'colour', colour: [0.5, 0.5, 0.5] })(draft);
        for (const x of [0.2, 0.4, 0.6])
          addStroke(
            { kind: 'layer', layer: 'top' },
            { action: 'reveal', size: 0.1, softness: 1, flow: 1, points: [[x, 0.3, 1]] },
          )(draft);
      });
      bench.actions.go({ layer: 'top', layerPart: 'where' });
    });
    return { bench, strokes };
  };

  test('its strokes are listed, marked where they lie, and each can be taken out', async () => {
    const { bench, strokes } = open();
    expect(strokes()).toHaveLength(3);
    await user.click(screen.getByRole('button', { name: /^Brush|3 strokes/ }));
    const second = screen.getByRole('button', { name: REGION_TEXT.dropStroke(2, 'Reveal') });
    act(() => second.focus());
    expect(bench.store.getState().pointed?.points[0][0]).toBe(0.4);
    await user.click(second);
    expect(strokes().map((s) => s.points[0][0])).toEqual([0.2, 0.6]);
    expect(bench.store.getState().pointed).toBeUndefined();
    act(bench.actions.undo);
    expect(strokes()).toHaveLength(3);
  });

  test('is told where a stroke changes nothing, with the layer that was meant to go to', async () => {
    const { bench } = open();
    act(() => {
      bench.actions.go({ layer: 'under' });
      bench.actions.tellIdle({ layer: 'under', meant: 'top' });
    });
    expect(screen.getByText(TEXT.idle('under'))).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: TEXT.paintIn('top') }));
    expect(bench.store.getState().session.layer).toBe('top');
    expect(screen.queryByText(TEXT.idle('under'))).toBeNull();
  });
});

describe('Finish', () => {
  test('ratios, upright and exposure change the recipe', async () => {
    const bench = renderOnBench(sampleProject(), <FinishPanel />);
    const project = () => bench.store.getState().history.project;
    await user.click(screen.getByRole('radio', { name: '4:5' }));
    await user.click(screen.getByRole('checkbox', { name: 'Upright' }));
    expect(project().geometry).toMatchObject({ ratio: '4:5', upright: true });
    act(() => screen.getByRole('slider', { name: 'Exposure' }).focus());
    await user.keyboard('{ArrowRight}{ArrowRight}');
    expect(exposureOf(project())).toBeCloseTo(0.1, 6);
    // one gesture, one step
    act(bench.actions.undo);
    expect(exposureOf(project())).toBe(0);
  });

  test('a picture that is asked for before it is merged is waited for; a merge that is stopped is said', async () => {
    const bench = renderOnBench(sampleProject(), <FinishPanel />);
    const button = screen.getByRole('button', { name: 'Deliver the picture' });
    await user.click(button);
    expect(bench.store.getState().work?.text).toBe('Delivering the picture');
    expect(button).toBeDisabled();
    act(() => bench.store.setState({ paused: true }));
    await waitFor(() =>
      expect(bench.store.getState().problems).toEqual([expect.stringMatching(/not merged as it stands/)]),
    );
    // nothing can be delivered until the merge is started again
    expect(button).toBeDisabled();
    // the project is never locked by what is being made
    expect(screen.getByRole('button', { name: 'Save the project file' })).toBeEnabled();
  });
});
