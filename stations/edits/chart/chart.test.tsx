import { beforeAll, describe, expect, test } from '@jest/globals';
import { act, render, renderHook, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode } from 'react';
import { findEdit } from '@/core/edits/ranked';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { BenchProvider } from '@/stations/benchContext';
import { MatchOverlay } from '@/stations/match/Overlay';
import { type Bench } from '@/store/benchState';
import { readChart } from '@/store/chartOfFrame';
import { setKindOfEdit } from '@/store/edits/list';
import { stationFindings } from '@/store/stationFindings';
import { chartPicture, THREE_LIGHTS } from '@/tests/chartPicture';
import { sampleDecoded, sampleProject } from '@/tests/sampleProject';
import { benchOf } from '@/tests/testBench';
import { EditForm } from '../EditForm';
import { useOpenEdit } from '../useOpenEdit';
import { useChartTool } from './useChartTool';

const user = userEvent.setup();
const WHOLE = { kind: 'whole' } as const;
const CORNERS = [
  [150, 90],
  [450, 96],
  [446, 296],
  [148, 290],
] as const;

let picture: EncodedImage;
beforeAll(() => {
  picture = chartPicture({
    corners: CORNERS,
    recording: THREE_LIGHTS.lamp,
    width: 600,
    height: 400,
    gain: 0.5,
  });
});

/** A bench whose frame “mid” shows the chart. */
function made() {
  const project = sampleProject();
  const bench = benchOf(project);
  const decoded = sampleDecoded(project);
  const [, mid] = project.frames;
  const shown = { ...decoded, [mid.hash]: { ...decoded[mid.hash], levels: [picture] } };
  bench.store.setState({ decoded: shown });
  bench.actions.go({ station: 'match', edit: 'chart', look: 'shot', frame: 'mid' });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <BenchProvider value={{ bench, viewer: bench.pool, showPlace: () => undefined }}>
      {children}
    </BenchProvider>
  );
  const settings = () => findEdit(bench.store.getState().history.project.edits, 'chart')?.settings;
  return { bench, wrapper, settings };
}

/** Reads the chart where it lies. */
function read(bench: Bench): void {
  const settings = readChart(bench, 'mid', CORNERS);
  if (!settings) throw new Error('not read');
  bench.actions.edit('read', setKindOfEdit(WHOLE, 'chart', settings, 'c'));
}

function Form() {
  return <EditForm at={WHOLE} kind="chart" edit={useOpenEdit()} />;
}

describe('a chart', () => {
  test('that is read shows every patch beside the published one, and is judged', () => {
    const { bench, wrapper } = made();
    act(() => read(bench));
    render(<Form />, { wrapper });
    const patches = within(screen.getByRole('list', { name: /^Patches/ })).getAllByRole('listitem');
    expect(patches).toHaveLength(24);
    expect(patches[0]).toHaveAccessibleName(/^dark skin: \d\.\d$/);
    expect(stationFindings(bench.store.getState(), 'match')).toEqual(
      expect.arrayContaining([expect.objectContaining({ id: 'match.chart', verdict: 'pass' })]),
    );
  });

  test('that is not found can be laid by hand, and its corners pulled', async () => {
    const { bench, wrapper, settings } = made();
    render(<Form />, { wrapper });
    await user.click(screen.getByRole('button', { name: 'Set its corners by hand' }));
    expect(bench.store.getState().tool).toBe('chart');
    expect(settings()?.corners).toHaveLength(4);
    // in the middle lie other patches: nothing is changed by what is no chart
    const { result } = renderHook(() => useChartTool(), { wrapper });
    const drag = (from: readonly [number, number], to: readonly [number, number]): void => {
      act(() => result.current?.onStart({ x: from[0], y: from[1], pressure: 1 }));
      act(() => result.current?.onMove([{ x: to[0], y: to[1], pressure: 1 }]));
      act(() => result.current?.onEnd());
    };
    settings()?.corners.forEach(([x, y], i) => drag([x + 3, y - 2], [CORNERS[i][0] + 3, CORNERS[i][1] - 2]));
    settings()?.corners.forEach((corner, i) =>
      corner.forEach((v, c) => expect(v).toBeCloseTo(CORNERS[i][c], 6)),
    );
    expect(settings()?.colours).toHaveLength(24);
    expect(settings()?.matrix).not.toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1]);
    // four pulls are four steps
    expect(bench.store.getState().history.past.at(-1)?.label).toBe('A corner of the chart pulled');
  });

  test('pulled where it is none says so, and changes nothing', () => {
    const { bench, wrapper, settings } = made();
    act(() => read(bench));
    act(() => bench.actions.take('chart'));
    render(<Form />, { wrapper });
    const { result } = renderHook(() => useChartTool(), { wrapper });
    act(() => result.current?.onStart({ x: 446, y: 296, pressure: 1 }));
    act(() => result.current?.onMove([{ x: 160, y: 100, pressure: 1 }]));
    act(() => result.current?.onEnd());
    expect(settings()?.matrix).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1]);
  });

  test('is drawn on its own frame only', () => {
    const { bench, wrapper } = made();
    act(() => read(bench));
    const view = { viewport: { zoom: 1, x: 300, y: 200 }, table: { width: 600, height: 400 } };
    const { container } = render(<MatchOverlay {...view} />, { wrapper });
    expect(container.querySelectorAll('circle')).toHaveLength(32);
    act(() => bench.actions.go({ frame: 'dark' }));
    expect(container.querySelectorAll('circle')).toHaveLength(0);
  });

  test('with neutral on as well says that white is set twice', () => {
    const { bench, wrapper } = made();
    act(() => read(bench));
    act(() => bench.actions.edit('n', setKindOfEdit(WHOLE, 'neutral', { gains: [1.1, 1, 0.9] }, 'n')));
    render(<Form />, { wrapper });
    expect(screen.getByText(/white is set twice/)).toBeVisible();
  });
});
