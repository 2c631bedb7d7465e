import { describe, expect, test } from '@jest/globals';
import { largestDifference } from '@/tests/paint';
import { kernels } from '../kernels/kernels';
import { randomSource } from '../raster/random';
import { localStructure, plainStructure } from './localStructure';
import { type Representation } from './logLuminance';

function representation(width: number, height: number): Representation {
  const random = randomSource(width);
  const plane = (of: () => number): Float32Array => Float32Array.from({ length: width * height }, of);
  return {
    width,
    height,
    value: plane(() => -8 * random()),
    variance: plane(random),
    // whole stretches hold nothing, as burnt skies do
    valid: plane(() => (random() < 0.4 ? 0 : random())).map((v, i) => (i % width < 6 ? 0 : v)),
  };
}

describe('structure without tone', () => {
  test.each([
    [40, 25, 6, true],
    [37, 23, 12, false],
    [61, 9, 8, true],
    [7, 30, 3, true],
  ])('%i × %i, reach %i, divided %s: the kernel agrees with the plain form', (w, h, r, divide) => {
    expect(kernels()).toBeDefined();
    const rep = representation(w, h);
    const [compiled, plain] = [localStructure(rep, r, divide), plainStructure(rep, r, divide)];
    expect(largestDifference(compiled.value, plain.value)).toBeLessThan(2e-4);
    expect(largestDifference(compiled.variance, plain.variance)).toBeLessThan(2e-4);
  });

  test('what exposure and contrast do to a picture is gone', () => {
    const rep = representation(50, 40);
    const held = { ...rep, valid: rep.valid.map(() => 1) };
    const brighter = { ...held, value: held.value.map((v) => 1.5 * v + 2) };
    const [a, b] = [held, brighter].map((p) => localStructure(p, 6, true).value);
    // but for the 0.1 stops that are added to a deviation of about two
    expect(largestDifference(a, b)).toBeLessThan(0.06);
  });
});
