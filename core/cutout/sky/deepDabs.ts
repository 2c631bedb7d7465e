import { type Dab } from '../dab';
import { squaredDistance } from '../squaredDistance';
import { length2 } from '../../raster/length';

/** dabs on a side at most */
const COUNT = 10;
/** a dab is this part of the depth at its place wide, and so many times it long */
const [WIDE, LONG] = [0.3, 1.2];
/** a place this near to the edge gets no dab, cells */
const SHALLOW = 3;
/** distance from the dabs before that counts as much as depth does */
const APART = 3;

/**
 * Dabs on one side of a cut, each where it is deep and far from those before it: level strokes that stay clear of the edge and show all the colours of that side.
 * @param label [cell] 1 for “this”
 * @returns in cells
 */
export function deepDabs(label: Uint8Array, width: number, height: number, side: 0 | 1): Dab[] {
  const beyond = squaredDistance(
    label.map((l) => (l === side ? 0 : 1)),
    width,
    height,
  );
  // the border of the picture is an edge too: a dab does not lie half beside it
  const depth = Float64Array.from(beyond, (d2, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    const border = Math.min(x + 1, width - x, y + 1, height - y);
    return label[i] === side ? Math.min(Math.sqrt(d2), border) : 0;
  });
  const score = depth.slice();
  const dabs: Dab[] = [];
  while (dabs.length < COUNT) {
    let at = 0;
    for (let i = 1; i < score.length; i++) if (score[i] > score[at]) at = i;
    if (score[at] <= SHALLOW) break;
    const [x, y] = [at % width, Math.floor(at / width)];
    const half = Math.min((LONG * depth[at]) / 2, depth[at] - 1);
    dabs.push({
      is: side === 1 ? 'this' : 'not',
      size: Math.max(1.5, WIDE * depth[at]),
      points: [
        [x - half, y],
        [x + half, y],
      ],
    });
    for (let i = 0; i < score.length; i++) {
      const aside = Math.max(0, Math.abs((i % width) - x) - half);
      score[i] = Math.min(score[i], length2(aside, Math.floor(i / width) - y) / APART);
    }
  }
  return dabs;
}
