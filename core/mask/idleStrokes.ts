import { type PackedStroke } from './packStroke';
import { strokeCoverage, touchesGrid } from './strokeCoverage';

/** long edge at which strokes are compared, pixels */
const LOOKED_AT = 400;
/** a change of the mask of less than this is none */
const NOTHING = 1 / 255;
/** strokes that are judged, the latest: two planes of each are held */
const JUDGED = 100;

/**
 * Which strokes of a part change nothing any more: they were painted over later, or showed what was shown already. What is left of a stroke's change
 * at a pixel is multiplied by what each later stroke leaves there, whether that reveals or hides. Strokes that stay inside what they started on
 * depend on the picture: they are taken to change something, and to cover nothing. Of very many strokes the latest are judged.
 * @param size of the picture, full-size pixels
 * @returns places in the list
 */
export function idleStrokes(
  strokes: readonly PackedStroke[],
  { width, height }: { readonly width: number; readonly height: number },
): number[] {
  const longEdge = Math.max(width, height);
  const level = Math.max(0, Math.log2(longEdge / LOOKED_AT));
  const grid = {
    ...{ longEdge, level, x: 0, y: 0 },
    width: Math.max(1, Math.ceil(width / 2 ** level)),
    height: Math.max(1, Math.ceil(height / 2 ** level)),
  };
  const mask = new Float32Array(grid.width * grid.height);
  const first = Math.max(0, strokes.length - JUDGED);
  const painted = strokes.map((stroke, k) => {
    if (stroke.inside || !touchesGrid(stroke, grid)) return undefined;
    const coverage = strokeCoverage(stroke, grid);
    const isReveal = stroke.action === 'reveal';
    const change = coverage.map((c, i) => {
      const by = isReveal ? (1 - mask[i]) * c : mask[i] * c;
      mask[i] += isReveal ? by : -by;
      return by;
    });
    return k < first ? undefined : { coverage, change };
  });
  const left = new Float32Array(mask.length).fill(1);
  const idle: number[] = [];
  for (let k = strokes.length - 1; k >= first; k--) {
    if (strokes[k].inside) continue;
    const own = painted[k];
    // one beside the picture changes nothing of it
    if (!own) {
      idle.unshift(k);
      continue;
    }
    const { change, coverage } = own;
    let most = 0;
    for (let i = 0; i < left.length; i++) {
      most = Math.max(most, change[i] * left[i]);
      left[i] *= 1 - coverage[i];
    }
    if (most < NOTHING) idle.unshift(k);
  }
  return idle;
}
