import { describe, expect, test } from '@jest/globals';
import { evaluate, NotMade } from './evaluate';
import { buildGraph } from './graph';
import { versionOf } from './operators';
import { type At, type Value } from './tile';
import { NO_CACHE } from './tileCache';
import { lightOf } from './wanted';

const at: At = { level: 0, area: { x: 0, y: 0, width: 40, height: 40 }, kernel: 'lanczos' };

/** A grey of one value, and an ellipse that lies on the left half of the place or far beside it. */
function parts() {
  const g = buildGraph(versionOf);
  const grey = (v: number): string => g.add('fillColour', { colour: [v, v, v] });
  const ellipse = (x: number): string =>
    g.add('fillEllipse', { longEdge: 40, x, y: 0.5, across: 0.2, down: 0.2, turn: 0, soft: 0.5 });
  // a picture that nobody has made
  const absent = g.add('samplePicture', { matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1] }, [
    g.add('frame', { hash: 'none' }),
  ]);
  return { g, grey, ellipse, absent };
}

const world = { made: (): Value | undefined => undefined, cache: NO_CACHE, keeps: () => false };

describe('what lies nowhere on a tile is not drawn there', () => {
  const blend = { mode: 'multiply', opacity: 1, linear: false };

  test('a layer', () => {
    const { g, grey, ellipse, absent } = parts();
    const laid = (x: number): string => g.add('blendLayers', blend, [grey(0.4), absent, ellipse(x)]);
    const [R] = lightOf(evaluate(g.graph, laid(9), at, world), 'a test').planes;
    expect(R.every((v) => Math.abs(v - 0.4) < 1e-6)).toBe(true);
    expect(() => evaluate(g.graph, laid(0.3), at, world)).toThrow(NotMade);
    // with nothing beneath its colours go on, without opacity
    expect(() => evaluate(g.graph, g.add('blendLayers', blend, ['', absent, ellipse(9)]), at, world)).toThrow(
      NotMade,
    );
  });

  test('a change that looks around itself', () => {
    const { g, grey, ellipse, absent } = parts();
    const changed = g.add('sharpenLight', { radius: 2, amount: 1, edge: 0 }, [absent]);
    const mixed = (x: number): string => g.add('mix', { amount: 0.5 }, [grey(0.4), changed, ellipse(x)]);
    const light = lightOf(evaluate(g.graph, mixed(9), at, world), 'a test');
    expect(light.encoded).toBe(true);
    expect(light.planes[0].every((v) => Math.abs(v - 0.4) < 1e-6)).toBe(true);
    expect(() => evaluate(g.graph, mixed(0.3), at, world)).toThrow(NotMade);
  });
});
