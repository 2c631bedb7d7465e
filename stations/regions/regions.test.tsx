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
import { addSky } from './addSky';
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

describe('the sky', () => {
  const dabs = [
    {
      is: 'this',
      size: 0.05,
      points: [
        [0.2, 0.1],
        [0.4, 0.1],
      ],
    },
    {
      is: 'not',
      size: 0.05,
      points: [
        [0.2, 0.5],
        [0.4, 0.5],
      ],
    },
  ] as const;

  /** A bench whose picture is there, and whose worker finds so sure a sky. */
  const asked = async (sure: number | undefined) => {
    const bench = onBench(null);
    const found = sure === undefined ? undefined : { dabs, share: 0.3, sure };
    const viewer = poolThat(() => Promise.resolve(found as never));
    const shown = jest.spyOn(bench, 'shown');
    const compiled = { width: 600, height: 400, base: 'base', layers: [], laid: new Map() };
    const nodes = new Map([['base', { hash: 'base', kind: 'fillColour', settings: {}, inputs: [] }]]);
    shown.mockReturnValue({
      built: { compiled: { ...compiled, graph: nodes }, valueOf: () => undefined },
    } as never);
    const says = await addSky({ bench, viewer, owner: OWNER, name: 'Layer' });
    const parts = regionOf(bench.store.getState().history.project, OWNER)?.parts ?? [];
    return { says, thing: parts.find((p) => p.part.kind === 'thing')?.part };
  };

  test('becomes a thing with the dabs that found it, and it is said how sure that is', async () => {
    const { says, thing } = await asked(0.9);
    expect(says).toBe('The sky is found, 90 % sure.');
    expect(thing?.settings).toEqual({
      dabs: dabs.map((d) => ({
        ...{ is: d.is, size: expect.closeTo(d.size, 9) },
        points: d.points.map((p) => p.map((v) => expect.closeTo(v, 9))),
      })),
    });
  });

  test('that may be one is said to be looked at; where there is none nothing is added', async () => {
    expect((await asked(0.3)).says).toContain('This may be the sky: 30 % sure');
    for (const sure of [0.02, undefined]) {
      const { says, thing } = await asked(sure);
      expect(says).toContain('No sky was found');
      expect(thing).toBeUndefined();
    }
  });
});
