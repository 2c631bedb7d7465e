import { describe, expect, test } from '@jest/globals';
import { type Draft } from 'immer';
import { type Project } from '@/core/recipe/project';
import { benchOf } from '@/tests/testBench';
import { sampleDecoded, sampleProject } from '@/tests/sampleProject';
import { addStroke, setFinish } from './edits';

const stroke = { action: 'reveal', size: 0.1, softness: 0.5, flow: 1, points: [[0.1, 0.1, 1]] } as const;
const touched = { x: 30, y: 40, width: 50, height: 60 };

/** A bench with decoded frames and a layer, and what it shows now. */
function bench() {
  const made = benchOf(sampleProject());
  made.store.setState({ decoded: sampleDecoded() });
  made.actions.edit('Layer', (draft: Draft<Project>) => {
    draft.layers.push({ ...draft.layers[0], id: 'l1', source: { kind: 'frame', frame: 'dark' } });
  });
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
    actions.edit('Exposure', setFinish({ exposure: 1 }));
    expect(now().scene).not.toBe(before.scene);
    expect(now().scene?.finish.exposure).toBe(1);
    expect(now().dirty).toBeUndefined();
  });

  test('a stroke: what it touched last, also when it becomes a step of the history', () => {
    const { actions, now, store } = bench();
    now();
    actions.draw({ layer: 'l1', stroke, touched });
    expect(now().dirty).toEqual(touched);
    expect(now().scene?.layers.find((l) => l.id === 'l1')?.mask.strokes).toEqual([stroke]);
    actions.edit('Revealed', addStroke('l1', stroke));
    expect(store.getState().live).toBeUndefined();
    expect(now().dirty).toEqual(touched);
    expect(now().scene?.layers.find((l) => l.id === 'l1')?.mask.strokes).toEqual([stroke]);
    // and the next edit is about all of the picture again
    actions.edit('Exposure', setFinish({ exposure: 1 }));
    expect(now().dirty).toBeUndefined();
  });

  test('a stroke that is given up: all of it', () => {
    const { actions, now } = bench();
    now();
    actions.draw({ layer: 'l1', stroke, touched });
    now();
    actions.draw(undefined);
    expect(now().dirty).toBeUndefined();
    expect(now().scene?.layers.find((l) => l.id === 'l1')?.mask.strokes).toEqual([]);
  });

  test('other pixels: all of it', () => {
    const { actions, now, store } = bench();
    now();
    actions.draw({ layer: 'l1', stroke, touched });
    store.setState({ decoded: sampleDecoded() });
    expect(now().dirty).toBeUndefined();
  });
});
