import { useMemo, useRef } from 'react';
import { type ChartCorners } from '@/core/match/chart/chartColours';
import { readChart } from '@/store/chartOfFrame';
import { changeSettings } from '@/store/edits/list';
import { type Tool } from '@/ui/table/tool';
import { useActions, useBench, useBenchParts } from '../../benchContext';
import { EDITS_TEXT } from '../text';
import { openEditOf } from '@/store/edits/openEdit';
import { useTarget } from '../useTarget';

/** Pulls the corners of a chart on the frame that shows it, the nearest one each time. */
export function useChartTool(): Tool | undefined {
  const { bench } = useBenchParts();
  const actions = useActions();
  const at = useTarget();
  const isIn = useBench((s) => s.tool === 'chart' && s.session.look === 'shot');
  const from = useRef<{
    readonly corners: ChartCorners;
    readonly index: number;
    readonly x: number;
    readonly y: number;
    readonly gesture: string;
  }>(undefined);
  return useMemo<Tool | undefined>(() => {
    if (!isIn) return undefined;
    const own = () => {
      const state = bench.store.getState();
      const edit = openEditOf(state);
      // only on the frame that it lies in
      return edit?.kind === 'chart' &&
        edit.settings.corners.length === 4 &&
        state.session.frame === edit.settings.frame
        ? edit
        : undefined;
    };
    return {
      onStart: ({ x, y }) => {
        const corners = own()?.settings.corners;
        if (!corners) return;
        const distances = corners.map(([u, v]) => Math.hypot(u - x, v - y));
        const index = distances.indexOf(Math.min(...distances));
        from.current = { corners, index, x, y, gesture: `chart ${performance.now()}` };
      },
      onMove: (points) => {
        const edit = own();
        const last = points.at(-1);
        if (!from.current || !last || !edit) return;
        const { corners, index, x, y, gesture } = from.current;
        const moved = corners.map(([u, v], i): readonly [number, number] =>
          i === index ? [u + last.x - x, v + last.y - y] : [u, v],
        );
        const { frame } = edit.settings;
        const read = readChart(bench, frame, moved) ?? {
          ...{ frame, corners: moved, colours: [], matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1] },
        };
        actions.edit(
          EDITS_TEXT.chart.pulled,
          changeSettings(at, edit.id, () => read),
          gesture,
        );
      },
      onEnd: () => {
        from.current = undefined;
      },
    };
  }, [actions, at, bench, isIn]);
}
