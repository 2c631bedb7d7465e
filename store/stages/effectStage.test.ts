import { beforeAll, describe, expect, test } from '@jest/globals';
import { PLAIN_LAYER, type Layer } from '@/core/layers/layer';
import { EVERYWHERE } from '@/core/region/region';
import { inlinePool } from '@/tests/inlinePool';
import { regionOf } from '@/tests/regionPlane';
import { reopened, settled, smallProject, type SmallProject } from '@/tests/smallProject';
import { type Bench } from '../benchState';
import { addEdit, newEdit, setEdit } from '../edits/list';
import { addStroke } from '../edits/regions';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { idleEdits } from '../effectFindings';
import { stationFindings } from '../stationFindings';
import { effectsNow } from './effectStage';
import { whenState } from '../whenState';

const pool = inlinePool(2);
let small: SmallProject;

beforeAll(async () => {
  small = await smallProject(pool);
}, 60_000);

const WHOLE = { kind: 'whole' } as const;

const grey = (id: string, change: Partial<Layer> = {}): Layer =>
  ({
    ...PLAIN_LAYER,
    ...{ id, name: id, kind: 'fill', fill: { kind: 'colour', colour: [0.2, 0.2, 0.2] } },
    ...change,
  }) as Layer;

/** What is found of a project's layers and changes once it was looked at. */
async function found(
  bench: Bench,
  change: () => void,
): Promise<ReadonlyMap<string, { value: number; why: string }>> {
  await settled(bench);
  const before = bench.store.getState().effects;
  change();
  await settled(bench);
  await whenState(bench.store, (s) => s.effects !== undefined && s.effects !== before);
  const state = bench.store.getState();
  const findings = [...(stationFindings(state, 'layers') ?? []), ...(stationFindings(state, 'match') ?? [])];
  return new Map(findings.map((f) => [f.id, f]));
}

describe('what does nothing is named', () => {
  test('layers that are covered, hidden ones that would show, regions that cover nothing, and strokes', async () => {
    const bench = await reopened(pool, small);
    const all = await found(bench, () =>
      bench.actions.edit('Layers', (draft) => {
        const empty = {
          ...EVERYWHERE,
          id: 'w',
          name: '',
          parts: [
            {
              how: 'add',
              turned: false,
              on: true,
              part: { kind: 'tone', settings: { from: 4, to: 6, soft: 0.01 } },
            },
          ],
        };
        draft.layers.push(grey('under') as never, grey('over') as never);
        draft.layers.push(
          grey('away', { shown: false, fill: { kind: 'colour', colour: [1, 0, 0] } } as never) as never,
        );
        draft.layers.push(grey('nowhere', { where: empty as never }) as never);
        // a speck is a place too
        const speck = { x: 0.3, y: 0.2, across: 0.012, down: 0.012, turn: 0, soft: 0 };
        const where = regionOf({ kind: 'ellipse', settings: speck });
        draft.edits.push({ ...newEdit('speck', 'exposure', { stops: 1 }), where } as never);
      }),
    );
    const idle = all.get('layers.idle');
    expect(idle?.why).toMatch(/“under”/);
    expect(idle?.why).toMatch(/“nowhere”/);
    expect(all.get('layers.hidden')?.why).toMatch(/^“away”: is hidden, and would change/);
    expect(all.get('layers.regions')?.why).toMatch(/^“nowhere”: /);
    await bench.actions.close();
  }, 60_000);

  test('an edit that cannot be seen, and a stroke that was painted over, with its place', async () => {
    const bench = await reopened(pool, small);
    const owner = { kind: 'edit', at: WHOLE, edit: 'e' } as const;
    const stroke = { action: 'reveal', size: 0.1, softness: 0, flow: 1, points: [[0.3, 0.3, 1]] } as const;
    const first = await found(bench, () => {
      bench.actions.edit('Light', addEdit(WHOLE, newEdit('e', 'exposure', { stops: 0.004 })));
      bench.actions.edit('Stroke', addStroke(owner, stroke));
      bench.actions.edit('Stroke', addStroke(owner, { ...stroke, size: 0.3 }));
    });
    expect(first.get('match.idle')?.why).toMatch(/“0 EV”.*does nothing that can be seen/);
    expect(first.get('layers.strokes')).toMatchObject({ value: 1, where: { width: expect.anything() } });
    const next = await found(bench, () =>
      bench.actions.edit('More', setEdit(WHOLE, 'e', { settings: { stops: 1 } })),
    );
    expect(next.get('match.idle')).toBeUndefined();
    await bench.actions.close();
  }, 60_000);

  test('what is done to the finest detail, or after the picture is set straight, is told too', async () => {
    const bench = await reopened(pool, small);
    const glow = { ...EDIT_KINDS.glow.plain, from: 10 };
    await found(bench, () => {
      bench.actions.edit(
        'Sharper',
        addEdit(WHOLE, newEdit('fine', 'sharpen', { radius: 1, amount: 1, edge: 0 })),
      );
      // in a speck far from the middle of anything
      const speck = { x: 0.07, y: 0.05, across: 0.03, down: 0.03, turn: 0, soft: 0 };
      const where = regionOf({ kind: 'ellipse', settings: speck });
      const there = newEdit('speck', 'sharpen', { radius: 2, amount: 4, edge: 0 });
      bench.actions.edit('Sharper there', addEdit(WHOLE, { ...there, where }));
      bench.actions.edit(
        'None',
        addEdit(WHOLE, newEdit('none', 'sharpen', { radius: 1, amount: 0.0001, edge: 0 })),
      );
      bench.actions.edit(
        'No light so bright',
        addEdit(WHOLE, newEdit('glow', 'glow', { ...glow, amount: 1 })),
      );
    });
    const { history, ...state } = bench.store.getState();
    const effects = effectsNow({ history, ...state }, history.project);
    const idle = idleEdits(history.project.edits, effects).map((e) => e.id);
    expect(idle).toEqual(expect.arrayContaining(['none', 'glow']));
    expect(idle).not.toContain('fine');
    expect(idle).not.toContain('speck');
    // of another recipe nothing is known yet
    bench.actions.edit('Lights glow', setEdit(WHOLE, 'glow', { settings: { ...glow, from: -4, amount: 1 } }));
    const now = bench.store.getState();
    expect(effectsNow(now, now.history.project)).toBeUndefined();
    await bench.actions.close();
  }, 60_000);
});
