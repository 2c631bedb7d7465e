import { minimumCut } from '../cut/maxFlow';
import { capacity, CERTAIN } from './coarseCut';
import { type Seeds } from './dab';
import { type LabGrid, linkCost, LINKS } from './linkCost';

const SMOOTHNESS = 4;

/**
 * The cut at full size, within a band round the coarse one's edge; outside the band the label stands.
 * @param label [pixel] the coarse cut, enlarged
 * @param band [pixel] 1 where the cut may move
 * @param odds [pixel] logarithmic odds that its colour is “this”, read inside the band
 * @param scale see contrastScale
 */
export function fineCut(
  lab: LabGrid,
  label: Uint8Array,
  band: Uint8Array,
  odds: Float32Array,
  seeds: Seeds,
  scale: number,
): Uint8Array {
  const { width, height } = lab;
  const node = new Int32Array(label.length).fill(-1);
  let nodes = 0;
  for (let i = 0; i < band.length; i++) if (band[i]) node[i] = nodes++;
  const terminal = new Float32Array(nodes);
  const [from, to, cost] = [
    new Int32Array(LINKS.length * nodes),
    new Int32Array(LINKS.length * nodes),
    new Float32Array(LINKS.length * nodes),
  ];
  let n = 0;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const u = node[i];
      if (u >= 0)
        // “this” is the sink
        terminal[u] += seeds[i] === 1 ? -CERTAIN : seeds[i] === 0 ? CERTAIN : -capacity(odds[i]);
      for (const [dx, dy, weight] of LINKS) {
        if (x + dx < 0 || x + dx >= width || y + dy >= height) continue;
        const j = i + dy * width + dx;
        const v = node[j];
        if (u < 0 && v < 0) continue;
        const c = capacity(SMOOTHNESS * linkCost(lab, i, j, weight, scale));
        if (u >= 0 && v >= 0) {
          from[n] = u;
          to[n] = v;
          cost[n++] = c;
        }
        // a neighbour that stands draws to its own side
        else if (u >= 0) terminal[u] += label[j] ? -c : c;
        else terminal[v] += label[i] ? -c : c;
      }
    }
  const graph = { from: from.subarray(0, n), to: to.subarray(0, n), capacity: cost.subarray(0, n) };
  const side = minimumCut({ nodes, terminal, ...graph });
  return label.map((l, i) => (node[i] < 0 ? l : side[node[i]]));
}
