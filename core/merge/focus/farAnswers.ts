import { boxMean } from '../../raster/boxMean';
import { type FocusBuffers } from './focusPlan';
import { askSurroundings } from './surroundings';

/** windows over which a place asks its wide surroundings, cells of the coarser grid */
const FAR = [6, 18] as const;
/** energy of structure that counts, over that of the noise, and at least (0.04 of white)² */
const STRUCTURE = 4;
const LEAST = 1.6e-3;
/**
 * Structure that is sharp keeps at least this share of its coarse energy in the finest step: measured on the stand-in scene, 98 % of places
 * pass as they are, and a quarter after a blur of σ = 1.6 px.
 */
const SHARP_SHARE = 0.013;
/** what the mean of a cell's energy keeps of noise that was taken away but never below zero (measured) */
const LEFT_OF_NOISE = 0.3;
/** window in which that is asked, cells of the coarser grid */
const ASKED = 2;
/**
 * Heavy blur takes the structure of four pixels too; it is seen by the share that steps of four pixels have of the energy in steps of
 * sixteen. Measured on the stand-in scenes: sharp places from 0.085 up (98 %), 95 % of those
 * blurred by σ = 5 px under 0.042.
 */
const WIDE_SHARE = 0.06;
const WIDE_LEAST = 6e-4;
const WIDE_ASKED = 4;

/** The second pass of a depth map, once: what wide surroundings answer, and where no frame is sharp. @param noise of each frame's energy */
export function farAnswers(noise: readonly number[], { small }: FocusBuffers): void {
  const { mixed } = askSurroundings(small, FAR, true);
  mixed.forEach((answer, f) => small.far[f].set(answer));
  small.energies.forEach(([fine], f) => small.around[f].set(boxMean(fine, small.width, small.height, 1)));
  markUnsharp(noise, small);
}

/** Where there is structure, and the sharpest frame shows it blurred. */
function markUnsharp(
  noises: readonly number[],
  { width: w, height: h, energies, unsharp }: FocusBuffers['small'],
): void {
  const means = (which: number, reach: number): Float32Array[] =>
    energies.map((own) => boxMean(own[which], w, h, reach));
  const [fine, coarse, steps, wide] = [
    means(0, ASKED),
    means(1, ASKED),
    means(2, WIDE_ASKED),
    means(3, WIDE_ASKED),
  ];
  for (let i = 0; i < unsharp.length; i++) {
    let best = 0;
    let widest = 0;
    for (let f = 1; f < energies.length; f++) {
      if (fine[f][i] > fine[best][i]) best = f;
      if (steps[f][i] > steps[widest][i]) widest = f;
    }
    const structure = coarse[best][i];
    const sharp = fine[best][i] - LEFT_OF_NOISE * noises[best];
    const soft = structure > Math.max(LEAST, STRUCTURE * noises[best]) && sharp < SHARP_SHARE * structure;
    // a cell is the mean of four pixels, and so has a quarter of their noise
    const noise = noises[widest] / 4;
    const broad = wide[widest][i] - noise;
    const heavy =
      broad > Math.max(WIDE_LEAST, STRUCTURE * noise) && steps[widest][i] - noise < WIDE_SHARE * broad;
    unsharp[i] = soft || heavy ? 1 : 0;
  }
}
