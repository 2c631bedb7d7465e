// Shoots one set of known geometry, fits it, and prints the error of every frame. Arguments: scene, width, height, gain, seed.
import { registerPair } from '@/core/register/registerPair';
import { fitError, knownSet } from './fitError';
import { millAtDusk, realEnvironment } from './knownScene';

const [name, width, height, gain, seed] = process.argv.slice(2);
const size = { width: Number(width), height: Number(height) };
const scene = name === 'mill' ? millAtDusk() : realEnvironment(name, 2100, 1400);
const stops = [0, -4, -2, 2, 4];
const set = knownSet(scene, { ...size, stops, shift: 40, turn: 1, gain: Number(gain), seed: Number(seed) });
const frames = stops.slice(1).map((ev, i) => {
  const { image } = set.frames[i + 1];
  const { matrix, fitted, why, bound, residual } = registerPair(set.frames[0].image, image, {
    stops: ev,
    motion: 'auto',
  });
  return { ev, fitted, why, bound, residual, ...fitError(matrix, set.truth(i + 1), size.width, size.height) };
});
process.stdout.write(JSON.stringify(frames));
