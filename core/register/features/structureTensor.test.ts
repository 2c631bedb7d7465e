import { expect, test } from '@jest/globals';
import { largestDifference, waves } from '@/tests/paint';
import { kernels } from '../../kernels/kernels';
import { plainStructure, structureTensor } from './structureTensor';

test.each([
  [120, 90],
  [61, 47],
  [9, 7],
])('the kernels agree with the plain form, %i × %i', (w, h) => {
  expect(kernels()).toBeDefined();
  const tone = waves(31, 20);
  const grey = Float32Array.from({ length: w * h }, (_, i) => tone(i % w, Math.floor(i / w)));
  const [a, b] = [structureTensor(grey, w, h), plainStructure(grey, w, h)];
  expect(largestDifference(a.x, b.x)).toBeLessThan(1e-6);
  expect(largestDifference(a.y, b.y)).toBeLessThan(1e-6);
  expect(largestDifference(a.strength, b.strength)).toBeLessThan(1e-6);
});

// the tensor of one slope has one eigenvalue: an edge is no corner, whichever way it runs (Harris & Stephens 1988)
test('a corner is one, an edge and an even place are none', () => {
  const [w, h] = [60, 60];
  const grey = Float32Array.from({ length: w * h }, (_, i) =>
    i % w > 30 && Math.floor(i / w) > 30 ? 0.9 : 0.2,
  );
  const { strength } = structureTensor(grey, w, h);
  const at = (x: number, y: number): number => strength[y * w + x];
  expect(at(31, 31)).toBeGreaterThan(1e-3);
  expect(at(31, 50)).toBeLessThan(1e-6);
  expect(at(50, 31)).toBeLessThan(1e-6);
  expect(at(10, 10)).toBe(0);
});
