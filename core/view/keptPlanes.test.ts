import { describe, expect, test } from '@jest/globals';
import { NO_ADJUST } from '../match/adjust';
import { emptyImage } from '../raster/encodedImage';
import { MERGE_LAYER, PLAIN_SCENE } from '@/tests/sampleScene';
import { waves, paint } from '@/tests/paint';
import { keepPlanes, type KeptPlanes } from './keptPlanes';
import { renderView } from './renderView';
import { type ViewScene } from './viewScene';

const plane = (length: number, value: number): Float32Array[] => [new Float32Array(length).fill(value)];

describe('planes that are kept', () => {
  test('are made once', () => {
    const kept = keepPlanes(100);
    let made = 0;
    const ask = (): readonly Float32Array[] =>
      kept.of(
        () => 'a',
        () => (made++, plane(4, 7)),
      );
    const first = ask();
    expect(ask()).toBe(first);
    expect(made).toBe(1);
  });

  test('go when others need the room, those first that were not asked for longest', () => {
    const kept = keepPlanes(10);
    const made: string[] = [];
    const ask = (key: string, length = 4): void =>
      void kept.of(
        () => key,
        () => (made.push(key), plane(length, 1)),
      );
    for (const key of ['a', 'b', 'a', 'c', 'a', 'b']) ask(key);
    expect(made).toEqual(['a', 'b', 'c', 'b']);
    // what is larger than all the room is not kept, and nothing goes for it
    ask('large', 11);
    ask('large', 11);
    ask('b');
    expect(made).toEqual(['a', 'b', 'c', 'b', 'large', 'large']);
  });
});

describe('a view made with planes that were kept', () => {
  const [W, H] = [120, 90];
  const [red, green] = [waves(3, 10), waves(4, 10)];
  const image = paint(W, H, (x, y) => [red(x, y), green(x, y), 0.4], 255);
  const other = emptyImage(W, H, 255);
  const scene = (pixels: string, levels = [image]): ViewScene => ({
    width: W,
    height: H,
    ...PLAIN_SCENE,
    pixels,
    frames: [{ id: 'f', levels, matrix: [1, 0, 0.4, 0, 1, 0.3, 0, 0, 1], stops: 0 }],
    merge: { levels, frames: [], shares: [], noise: 0.01 },
    layers: [MERGE_LAYER],
  });
  const area = { x: 4, y: 5, width: 80, height: 60 };
  const render = (from: ViewScene, kept?: KeptPlanes): Uint8ClampedArray =>
    renderView(from, { kind: 'finished' }, 0, area, 'lanczos', kept);
  const finish = { ...PLAIN_SCENE.finish, noise: 0.5 };
  const louder = { ...NO_ADJUST, saturation: 1.3 };
  const states: [string, ViewScene][] = [
    ['as it is', scene('1')],
    ['brighter', { ...scene('1'), finish: { ...finish, exposure: 0.6 } }],
    ['darker', { ...scene('1'), finish: { ...finish, exposure: -0.6 } }],
    ['less noise', { ...scene('1'), finish: { ...finish, noise: 1 } }],
    ['sharpened', { ...scene('1'), finish: { ...finish, sharpen: { amount: 1, radius: 1, edge: 0 } } }],
    ['the whole matched', { ...scene('1'), match: { set: NO_ADJUST, whole: louder } }],
    ['the set matched', { ...scene('1'), match: { set: louder, whole: NO_ADJUST } }],
    ['another layer', { ...scene('1'), layers: [{ ...MERGE_LAYER, source: 'f' }] }],
    [
      'straightened',
      { ...scene('1'), finish: { ...finish, straighten: [1, 0.02, 0, -0.02, 1, 0, 0, 0, 1] } },
    ],
    ['other pixels', scene('2', [other])],
  ];

  test('is the same as one made anew, whatever was changed before it', () => {
    const kept = keepPlanes(1e6);
    const order = [0, 1, 2, 0, 3, 1, 4, 5, 0, 6, 7, 8, 9, 8, 7, 6, 5, 4, 3, 2, 1, 0];
    for (const k of order) {
      const [name, state] = states[k];
      expect([name, render(state, kept)]).toEqual([name, render(state)]);
    }
  });

  test('needs no layers again when only the finish was changed', () => {
    let made = 0;
    const memory = keepPlanes(1e6);
    const counting: KeptPlanes = { of: (key, make) => memory.of(key, () => (made++, make())) };
    for (const k of [0, 1, 2, 4, 1])
      render({ ...states[k][1], finish: { ...states[k][1].finish, noise: 0 } }, counting);
    // once, and once more for the margin that sharpening looks at
    expect(made).toBe(2);
  });
});
