import { describe, expect, test } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { type ReactNode } from 'react';
import { BenchProvider } from '../benchContext';
import { poolThat } from '@/tests/poolThat';
import { benchOf } from '@/tests/testBench';
import { baseOf, sampleProject } from '@/tests/sampleProject';
import { transform } from '@/core/raster/matrix3';
import { straightenOf } from '@/core/recipe/cropOf';
import { type ToolInHand } from '@/store/benchState';
import { useDrawTool } from './useDrawTool';

function hand(tool: ToolInHand) {
  const bench = benchOf(sampleProject());
  const idle = poolThat();
  const parts = { bench, viewer: idle, showPlace: () => undefined };
  const wrapper = ({ children }: { children: ReactNode }) => (
    <BenchProvider value={parts}>{children}</BenchProvider>
  );
  const { result } = renderHook(() => useDrawTool(), { wrapper });
  const draw = (x0: number, y0: number, x1: number, y1: number): void => {
    act(() => result.current.tool?.onStart({ x: x0, y: y0, pressure: 1 }));
    act(() => result.current.tool?.onMove([{ x: x1, y: y1, pressure: 1 }]));
    act(() => result.current.tool?.onEnd());
  };
  act(() => bench.actions.take(tool));
  return { bench, draw, result, project: () => bench.store.getState().history.project };
}

describe('drawing on the picture', () => {
  test('a region holds the fit, kept inside the picture; a speck holds nothing', () => {
    const { draw, project, bench } = hand('held');
    draw(10, 10, 12, 14);
    expect(baseOf(project()).set.region).toBeUndefined();
    draw(500, 300, 700, 200);
    expect(baseOf(project()).set.region).toEqual({ x: 500, y: 200, width: 100, height: 100 });
    expect(bench.store.getState().tool).toBeUndefined();
  });

  test('a line levels the picture, and a second one is drawn on what the first has turned', () => {
    const { draw, project, bench } = hand('level');
    draw(100, 200, 500, 220);
    expect(project().geometry.straighten.level).toEqual([100, 200, 500, 220]);
    act(() => bench.actions.take('level'));
    // drawn level on the levelled picture: it lies along the first line on the reference
    draw(200, 150, 400, 150);
    const [x0, y0, x1, y1] = project().geometry.straighten.level ?? [0, 0, 0, 0];
    expect(Math.atan2(y1 - y0, x1 - x0)).toBeCloseTo(Math.atan2(20, 400), 6);
  });

  test('a point pinned on the straightened picture lies where it is on the reference', () => {
    const { draw, project, bench } = hand('level');
    draw(100, 200, 500, 240);
    act(() => bench.actions.go({ station: 'proof' }));
    act(() => bench.actions.take('watch'));
    draw(500, 100, 500, 100);
    const [point] = project().watchPoints;
    const [x, y] = transform(straightenOf(project()), 500, 100);
    expect([point.x, point.y]).toEqual([x, y]);
    expect(Math.hypot(x - 500, y - 100)).toBeGreaterThan(10);
  });

  test('uprights need two lines', () => {
    const { draw, project, result } = hand('upright');
    draw(150, 350, 170, 50);
    expect(project().geometry.straighten.uprights).toBeUndefined();
    expect(result.current.drawn?.first).toEqual([150, 350, 170, 50]);
    draw(450, 350, 430, 50);
    expect(project().geometry.straighten.uprights?.[1]).toEqual([450, 350, 430, 50]);
  });

  test('a watch point is pinned, and the oldest of seven gives way', () => {
    const { draw, project, bench } = hand('watch');
    for (let k = 0; k < 7; k++) {
      act(() => bench.actions.take('watch'));
      draw(10 * k, 20, 10 * k, 20);
    }
    expect(project().watchPoints.map((p) => p.x)).toEqual([10, 20, 30, 40, 50, 60]);
  });
});
