import { describe, expect, test } from '@jest/globals';
import { act, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type Matrix3 } from '@/core/raster/matrix3';
import { emptyImage } from '@/core/raster/encodedImage';
import { panoramaOf } from '@/core/recipe/setFrames';
import { type Project } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { renderOnBench } from '@/tests/testBench';
import { baseOf, sampleFit, sampleProject, withFits } from '@/tests/sampleProject';
import { PairsSection } from '../fit/PairsSection';
import { OtherSection } from './OtherSection';

const user = userEvent.setup();

function turned(degrees: number): Matrix3 {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [c, 0, -s, 0, 1, 0, s, 0, c];
}

/** Three views that span about 100°. */
function panorama(): Project {
  const project = sampleProject({ kind: 'panorama' });
  const fit = {
    lens: { focalPx: 560, k1: 0, width: 600, height: 400 },
    rotations: [turned(-35), turned(0), turned(35)],
    pairs: [
      { a: 0, b: 1, matches: 120, agreeing: 110, overlap: 0.31, residual: 0.4, parallax: 1.2 },
      { a: 1, b: 2, matches: 96, agreeing: 90, overlap: 0.28, residual: 0.5, parallax: 0.3 },
    ],
  };
  const frames = ['dark', 'mid', 'light'];
  const fits = Object.fromEntries(frames.map((id) => [id, sampleFit(0, 0)]));
  return withFits(project, fits, { frames, fit });
}

describe('a panorama', () => {
  test('offers every projection with its stretch, and the way back to the recommended one', async () => {
    const bench = renderOnBench(panorama(), <OtherSection kind="panorama" />);
    const options = within(screen.getByRole('radiogroup', { name: 'Projection' })).getAllByRole('radio');
    expect(options).toHaveLength(4);
    for (const option of options) expect(option).toHaveTextContent(/% stretch/);
    await user.click(screen.getByRole('radio', { name: /^Longitude/ }));
    expect(baseOf(bench.store.getState().history.project).set.other.projection).toBe('equirectangular');
    await user.click(screen.getByRole('button', { name: 'Take the recommended one' }));
    expect(baseOf(bench.store.getState().history.project).set.other.projection).toBe('auto');
  });

  test('offers to crop the blank border or to bend it, and starts the view anew with either', async () => {
    const bench = renderOnBench(panorama(), <OtherSection kind="panorama" />);
    const border = (): string => baseOf(bench.store.getState().history.project).set.other.border;
    expect(border()).toBe('crop');
    await user.click(screen.getByRole('radio', { name: /^Bent to a rectangle/ }));
    expect(border()).toBe('warp');
    await user.click(screen.getByRole('radio', { name: /^Cropped/ }));
    expect(border()).toBe('crop');
    act(bench.actions.undo);
    expect(border()).toBe('warp');
  });

  test('says how neighbours agree', () => {
    renderOnBench(panorama(), <PairsSection />);
    const rows = screen.getAllByRole('row');
    expect(rows).toHaveLength(3);
    expect(rows[1]).toHaveTextContent('31');
    expect(rows[1]).toHaveTextContent('110');
  });

  test('is fitted anew when the lens’s bending is to be solved', async () => {
    const bench = renderOnBench(panorama(), <PairsSection />);
    await user.click(screen.getByLabelText('Solve how the lens bends'));
    const { project } = bench.store.getState().history;
    expect(baseOf(project).set.other.bend).toBe(true);
    expect(panoramaOf(baseOf(project))).toBeUndefined();
    act(bench.actions.undo);
    expect(panoramaOf(baseOf(bench.store.getState().history.project))).toBeDefined();
  });
});

describe('a focus set', () => {
  test('is merged by the school that is chosen, and the way back to what suits it is offered', async () => {
    const bench = renderOnBench(sampleProject({ kind: 'focus' }), <OtherSection kind="focus" />);
    const scene = {
      levels: [emptyImage(600, 400, 65535)],
      frames: ['dark', 'mid', 'light'],
      shares: [],
      noise: 0,
    };
    const school = { school: 'pyramid', lost: 2.4, why: 'Depth changes from stem to stem.' } as const;
    act(() =>
      bench.store.setState({ merged: { set: { key: 'made', scene, findings: [], movers: [], school } } }),
    );
    expect(screen.getByText(/from stem to stem/)).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: /Sharpness is taken/ }));
    await user.click(screen.getByRole('option', { name: 'By one even depth' }));
    expect(baseOf(bench.store.getState().history.project).set.other.focus).toBe('depth');
    await user.click(screen.getByRole('button', { name: 'Take what suits the set' }));
    expect(baseOf(bench.store.getState().history.project).set.other.focus).toBe('auto');
  });
});

describe('a stack', () => {
  test('is merged by the method and background that are chosen', async () => {
    const bench = renderOnBench(sampleProject({ kind: 'stack' }), <OtherSection kind="stack" />);
    await user.click(screen.getByRole('button', { name: /Samples/ }));
    await user.click(screen.getByRole('option', { name: 'Median' }));
    await user.click(screen.getByRole('button', { name: /Sky gradient/ }));
    // how the gradient is followed matters only where it is taken out
    expect(screen.queryByRole('button', { name: /Followed by/ })).toBeNull();
    await user.click(screen.getByRole('option', { name: 'Taken away' }));
    await user.click(screen.getByRole('button', { name: /Followed by/ }));
    await user.click(screen.getByRole('option', { name: 'A mesh of samples' }));
    expect(baseOf(bench.store.getState().history.project).set.other).toMatchObject({
      stack: 'median',
      background: 'subtract',
      backgroundForm: 'mesh',
    });
  });
});

describe('moments', () => {
  test('the parts are named with their reason, and become layers', async () => {
    const project = sampleProject({ kind: 'moments' });
    const bench = renderOnBench(project, <OtherSection kind="moments" />);
    const n = 300 * 200;
    const right = Uint8Array.from({ length: n }, (_, i) => (i % 300 > 150 ? 255 : 0));
    const region = { box: { x: 0, y: 0, width: 10, height: 10 } };
    act(() =>
      bench.store.setState({
        merged: {
          set: {
            key: setGraph(baseOf(project)).merge,
            scene: {
              levels: [emptyImage(600, 400, 255)],
              frames: ['dark', 'mid', 'light'],
              shares: [new Uint8Array(n), right.map((v) => 255 - v), right],
              noise: 0,
            },
            findings: [],
            movers: [],
            regions: [
              { ...region, frame: 1, area: 0.5, better: [] },
              { ...region, frame: 2, area: 0.42, better: ['lit', 'calm'] },
            ],
          },
        },
      }),
    );
    expect(screen.getByText(/42 % from “light.jpg”: better lit, calmer/)).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Lay them out as layers to paint on' }));
    expect(bench.store.getState().history.project.layers.map((l) => l.id)).toContain('moment-light');
    expect(bench.store.getState().session.layer).toBe('moment-light');
  });
});
