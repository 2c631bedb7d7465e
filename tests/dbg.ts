import { registerPair } from '@/core/register/registerPair';
import { exposureFusion } from '@/core/merge/exposureFusion';
import { knownSet } from './fitError';
import { millAtDusk } from './knownScene';
const [w, h] = [Number(process.argv[2] ?? 1500), Number(process.argv[3] ?? 1000)];
const stops = [0, -4, -2, 2, 4];
const set = knownSet(millAtDusk(), { width: w, height: h, stops, shift: 40, turn: 1, gain: 0.9, seed: 3 });
const t: Record<string, number> = {};
for (let round = 0; round < 3; round++)
  for (let k = 1; k < 5; k++) {
    const s = performance.now();
    registerPair(set.frames[0].image, set.frames[k].image, { stops: stops[k], motion: 'auto' });
    t[`fit ${k}`] = performance.now() - s;
  }
for (let round = 0; round < 2; round++) {
  const s = performance.now();
  exposureFusion(set.frames.map((f, k) => ({ image: f.image, matrix: set.truth(k) })), w, h);
  t.fusion = performance.now() - s;
}
console.log(t);
