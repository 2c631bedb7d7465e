import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { fireEvent, render, screen } from '@testing-library/react';
import { produce } from 'immer';
import { type RegionSpecks } from '@/core/region/edge/specks';
import { EVERYWHERE, type Region, type RegionPart } from '@/core/region/region';
import { BenchProvider } from '@/stations/benchContext';
import { addFrameLayer } from '@/store/edits/layers';
import { addStroke, clearRegion, regionOf } from '@/store/edits/regions';
import { type Bench } from '@/store/benchState';
import { poolThat } from '@/tests/poolThat';
import { sampleFrame, sampleProject } from '@/tests/sampleProject';
import { benchOf } from '@/tests/testBench';
import { BrushControls } from './BrushControls';
import { regionFile } from '@/core/recipe/regionFile';
import { joinFor } from './joinFor';
import { bringFrom } from './regionFiles';
import { SpeckLine } from './SpeckLine';
import { StrokeList } from './StrokeList';
import { toolOfPart } from './toolOfPart';

const OWNER = { kind: 'layer', layer: 'l1' } as const;
const showPlace = jest.fn();

function onBench(children: React.ReactNode): Bench {
  const project = produce(sampleProject(), (draft) => {
    addFrameLayer('l1', sampleFrame('dark', -2))(draft);
    clearRegion(OWNER, 'nowhere')(draft);
  });
  const bench = benchOf(project);
  render(<BenchProvider value={{ bench, viewer: poolThat(), showPlace }}>{children}</BenchProvider>);
  return bench;
}

afterEach(() => {
  jest.restoreAllMocks();
});
beforeEach(() => {
  showPlace.mockClear();
});

describe('specks of a region', () => {
  const none = { count: 0, largest: 0, places: [] };
  const specks: RegionSpecks = {
    holes: { count: 2, largest: 3, places: [{ x: 100, y: 80, width: 6, height: 5 }] },
    crumbs: { count: 1, largest: 1, places: [{ x: 300, y: 40, width: 2, height: 2 }] },
  };
  const line = (of: RegionSpecks, smooth = 0) => (
    <SpeckLine specks={of} owner={OWNER} name="Layer" longEdge={600} smooth={smooth} />
  );

  test('are counted, shown one after the other, and taken out by a window that outvotes the largest', () => {
    const bench = onBench(line(specks));
    expect(screen.getByText('2 holes and 1 crumb, the largest 6 px across.')).toBeTruthy();
    const next = screen.getByRole('button', { name: 'Show the next' });
    for (let k = 0; k < 3; k++) fireEvent.click(next);
    expect(showPlace.mock.calls.map(([place]) => (place as { x: number }).x)).toEqual([40, 240, 40]);
    fireEvent.click(screen.getByRole('button', { name: 'Take them out' }));
    const smooth = regionOf(bench.store.getState().history.project, OWNER)?.smooth ?? 0;
    // a square of so many pixels to each side is more than twice as large as a disc of radius 3
    expect((2 * Math.round(600 * smooth) + 1) ** 2).toBeGreaterThan(2 * Math.PI * 3 ** 2);
  });

  test('nothing is said of a region without any, and what cannot be smoothed further is not offered again', () => {
    onBench(line({ holes: none, crumbs: none }));
    expect(screen.queryByRole('button')).toBeNull();
    onBench(line(specks, 0.02));
    expect(screen.getByRole('button', { name: 'Take them out' })).toHaveProperty('disabled', true);
  });
});

describe('the brush', () => {
  test('stays on what it started on when it is told to', () => {
    const bench = onBench(<BrushControls owner={OWNER} />);
    const toggle = screen.getByRole('checkbox', { name: 'Stays on what it started on' });
    fireEvent.click(toggle);
    expect(bench.store.getState().session.brush.inside).toBe(true);
    fireEvent.click(toggle);
    expect(bench.store.getState().session.brush.inside).toBe(false);
  });

  test('strokes that stayed there are listed as such, and can be taken out like any', () => {
    const points = [[0.2, 0.2, 1]] as const;
    const plain = { action: 'reveal', size: 0.1, softness: 1, flow: 1, points } as const;
    const changed: number[] = [];
    onBench(
      <StrokeList
        strokes={[plain, { ...plain, inside: true }]}
        isRemoved={false}
        onChange={(left) => changed.push(left.length)}
      />,
    );
    expect(screen.getByRole('button', { name: 'Take out stroke 1, “Reveal”' })).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take out stroke 2, “Reveal, inside”' }));
    expect(changed).toEqual([1]);
  });
});

describe('a new part', () => {
  const partsOf = (region: Region): readonly RegionPart[] => region.parts;
  const empty: RegionPart = {
    ...{ how: 'add', turned: false, on: true },
    part: { kind: 'strokes', settings: { strokes: [] } },
  };

  test('says where at all while nothing does, and keeps to a part of it from then on', () => {
    expect(joinFor('same', [])).toBe('add');
    // everything was hidden, nothing is painted yet: “only where” would leave nothing for ever
    expect(joinFor('tone', [empty])).toBe('add');
    const stroke = { action: 'reveal', size: 0.1, softness: 1, flow: 1, points: [[0.2, 0.2, 1]] } as const;
    const painted = produce(
      { ...sampleProject(), regions: [{ ...EVERYWHERE, id: 'n', name: 'n', parts: [empty] }] },
      (d) => addStroke({ kind: 'named', region: 'n' }, stroke)(d),
    );
    const [region] = painted.regions;
    expect(joinFor('tone', partsOf(region))).toBe('keep');
    expect(joinFor('ellipse', partsOf(region))).toBe('add');
  });

  test('that means nothing without a press or a dab takes its tool in hand', () => {
    expect([toolOfPart('same'), toolOfPart('thing'), toolOfPart('tone')]).toEqual([
      'same',
      'this',
      undefined,
    ]);
  });
});

describe('a region of a file', () => {
  const settings = { x: 0.5, y: 0.3, across: 0.2, down: 0.1, turn: 0, soft: 0.2 };
  const saved = regionFile(
    {
      ...EVERYWHERE,
      id: 'pool',
      name: 'the pool',
      parts: [{ how: 'add', part: { kind: 'ellipse', settings }, turned: false, on: true }],
    },
    [],
  );

  /** Answers the browser's dialog with a file. */
  const choosing = (text: string): void => {
    jest.spyOn(HTMLInputElement.prototype, 'click').mockImplementation(function (this: HTMLInputElement) {
      const file = new File([text], 'pool.json');
      // jsdom's files have no text of their own
      Object.defineProperty(file, 'text', { value: () => Promise.resolve(text) });
      Object.defineProperty(this, 'files', { value: [file] });
      this.dispatchEvent(new Event('change'));
    });
  };

  test('becomes the layer’s own, in one step', async () => {
    const bench = onBench(null);
    choosing(saved);
    await bringFrom(OWNER, 'Layer', bench.actions);
    const own = () => regionOf(bench.store.getState().history.project, OWNER);
    expect(own()?.parts.map((p) => p.part)).toEqual([{ kind: 'ellipse', settings }]);
    bench.actions.undo();
    expect(own()?.parts.map((p) => p.part.kind)).toEqual(['strokes']);
  });

  test('that is none is said, and what was there stays', async () => {
    const bench = onBench(null);
    const before = regionOf(bench.store.getState().history.project, OWNER);
    choosing('nothing of the kind');
    await bringFrom(OWNER, 'Layer', bench.actions);
    expect(bench.store.getState().problems).toEqual([expect.stringContaining('“pool.json” holds no region')]);
    expect(regionOf(bench.store.getState().history.project, OWNER)).toBe(before);
  });
});
