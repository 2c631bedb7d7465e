import { describe, expect, test } from '@jest/globals';
import { exposed } from '@/tests/exposed';
import { benchOf } from '@/tests/testBench';
import { sampleDecoded, sampleFrame, sampleProject } from '@/tests/sampleProject';
import { type BuiltPicture } from './benchState';
import { addFrameLayer } from './edits/layers';
import { addEdit, newEdit } from './edits/list';
import { addStroke } from './edits/regions';

const stroke = { action: 'reveal', size: 0.1, softness: 0.5, flow: 1, points: [[0.1, 0.1, 1]] } as const;
/** as the nodes keep it: points in one array */
const drawn = { ...stroke, points: Float64Array.of(0.1, 0.1, 1) };
const OWNER = { kind: 'layer', layer: 'l1' } as const;
const touched = { x: 30, y: 40, width: 50, height: 60 };

const nodesOf = (built?: BuiltPicture) => [...(built?.compiled.graph.values() ?? [])];
const kindsOf = (built?: BuiltPicture): string[] => nodesOf(built).map((n) => n.kind);
/** Strokes that the picture is made with. */
const strokesOf = (built?: BuiltPicture): unknown[] =>
  nodesOf(built).flatMap((n) => (n.kind === 'paintStrokes' ? (n.settings as { strokes: [] }).strokes : []));

/** A bench with decoded frames and a layer, and what it shows now. */
function bench() {
  const made = benchOf(sampleProject());
  made.store.setState({ decoded: sampleDecoded() });
  made.actions.edit('Layer', addFrameLayer('l1', sampleFrame('dark', -2)));
  return { ...made, now: () => made.shown(made.store.getState()) };
}

describe('what a change of the state has changed of the picture', () => {
  test('nothing that a scene is made from: the same scene', () => {
    const { actions, now } = bench();
    const before = now();
    actions.report('A sentence.');
    actions.go({ station: 'finish' });
    expect(now()).toBe(before);
  });

  test('an edit: all of it', () => {
    const { actions, now } = bench();
    const before = now();
    actions.edit('Exposure', exposed(1));
    expect(now().scene).not.toBe(before.scene);
    expect(kindsOf(now().built)).toContain('expose');
    expect(now().dirty).toBeUndefined();
  });

  test('a stroke of a repair, or beneath one: all of it, for what is put there comes from elsewhere', () => {
    const { actions, now } = bench();
    const set = { kind: 'set', id: 'set' } as const;
    actions.edit('Repair', addEdit(set, newEdit('r', 'repair')));
    now();
    // in another region beside a set's repair, which comes before it: as ever
    actions.draw({ owner: OWNER, stroke, touched });
    expect(now().dirty).toEqual(touched);
    actions.draw(undefined);
    now();
    actions.draw({ owner: { kind: 'edit', at: set, edit: 'r' }, stroke, touched });
    expect(now().dirty).toBeUndefined();
    actions.draw(undefined);
    actions.edit('Repair', addEdit({ kind: 'whole' }, newEdit('w', 'repair')));
    now();
    actions.draw({ owner: OWNER, stroke, touched });
    expect(now().dirty).toBeUndefined();
  });

  test('a stroke: what it touched last, also when it becomes a step of the history', () => {
    const { actions, now, store } = bench();
    now();
    actions.draw({ owner: OWNER, stroke, touched });
    expect(now().dirty).toEqual(touched);
    expect(strokesOf(now().built)).toEqual([drawn]);
    actions.edit('Revealed', addStroke(OWNER, stroke));
    expect(store.getState().live).toBeUndefined();
    expect(now().dirty).toEqual(touched);
    expect(strokesOf(now().built)).toEqual([drawn]);
    // and the next edit is about all of the picture again
    actions.edit('Exposure', exposed(1));
    expect(now().dirty).toBeUndefined();
  });

  test('a stroke that is given up: all of it', () => {
    const { actions, now } = bench();
    now();
    actions.draw({ owner: OWNER, stroke, touched });
    now();
    actions.draw(undefined);
    expect(now().dirty).toBeUndefined();
    expect(strokesOf(now().built)).toEqual([]);
  });

  test('other pixels: all of it', () => {
    const { actions, now, store } = bench();
    now();
    actions.draw({ owner: OWNER, stroke, touched });
    store.setState({ decoded: sampleDecoded() });
    expect(now().dirty).toBeUndefined();
  });
});
