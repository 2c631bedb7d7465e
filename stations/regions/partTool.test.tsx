import { expect, test } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { type ReactNode } from 'react';
import { PART_KINDS } from '@/core/region/partKinds';
import { type Part } from '@/core/region/region';
import { BenchProvider } from '@/stations/benchContext';
import { addEdit, newEdit } from '@/store/edits/list';
import { addPart, regionOf } from '@/store/edits/regions';
import { sampleProject } from '@/tests/sampleProject';
import { benchOf } from '@/tests/testBench';
import { usePartTool } from './usePartTool';

const OWNER = { kind: 'edit', at: { kind: 'whole' }, edit: 'e' } as const;

/** The tool that draws a part of an edit's region. */
function toolFor(kind: 'same' | 'gradient', change: object = {}) {
  const bench = benchOf(sampleProject());
  bench.actions.edit('Edit', addEdit(OWNER.at, newEdit('e', 'exposure')));
  const part = { kind, settings: { ...PART_KINDS[kind].plain, ...change } } as Part;
  bench.actions.edit('Part', addPart(OWNER, 'add', part));
  bench.actions.take(kind, { owner: OWNER, part: 0 });
  const value = { bench, viewer: bench.pool, showPlace: () => undefined };
  const wrapper = ({ children }: { children: ReactNode }) => (
    <BenchProvider value={value}>{children}</BenchProvider>
  );
  const { result } = renderHook(() => usePartTool(), { wrapper });
  const settings = () => regionOf(bench.store.getState().history.project, OWNER)?.parts[0].part.settings;
  return { tool: result, settings };
}

const at = (x: number, y: number) => ({ x, y, pressure: 1 });

test('a place that is pressed beside the picture is that of its border, so that the recipe can be opened again', () => {
  const { tool, settings } = toolFor('same');
  act(() => tool.current?.onStart(at(-9000, 1e6)));
  expect(settings()).toMatchObject({ x: 0, y: 1 });
  act(() => tool.current?.onMove([at(1e6, -50)]));
  expect(settings()).toMatchObject({ x: 1, y: 0 });
  expect(PART_KINDS.same.schema.isValidSync(settings())).toBe(true);
});

test('a gradient that is drawn anew keeps where half of it is gone', () => {
  const { tool, settings } = toolFor('gradient', { half: 0.3 });
  act(() => tool.current?.onStart(at(60, 60)));
  act(() => tool.current?.onMove([at(300, 60)]));
  expect(settings()).toMatchObject({ x0: expect.closeTo(0.1, 2), x1: expect.closeTo(0.5, 2), half: 0.3 });
  expect(PART_KINDS.gradient.schema.isValidSync(settings())).toBe(true);
});
