/**
 * A graph cut over nodes 0…n−1 and two terminals. Edges are given as pairs of opposite arcs; the cut separates the source from the sink at
 * least cost.
 */
export interface CutGraph {
  readonly nodes: number;
  /** [node] capacity from the source minus capacity to the sink */
  readonly terminal: Float32Array;
  /** [edge] its two nodes */
  readonly from: Int32Array;
  readonly to: Int32Array;
  /** [edge] capacity in either direction */
  readonly capacity: Float32Array;
}

const NONE = -1;
const TERMINAL = -2;
const ORPHAN = -3;

/**
 * Least cut by the two-tree augmenting path algorithm (Boykov & Kolmogorov 2004), made for grids of pixels.
 * @returns [node] 1 on the sink's side, 0 on the source's
 */
export function minimumCut({ nodes, terminal, from, to, capacity }: CutGraph): Uint8Array {
  const edges = from.length;
  // arcs 2e and 2e + 1 are opposite
  const head = new Int32Array(2 * edges);
  const rest = new Float32Array(2 * edges);
  const next = new Int32Array(2 * edges);
  const first = new Int32Array(nodes).fill(NONE);
  for (let e = 0; e < edges; e++) {
    head[2 * e] = to[e];
    head[2 * e + 1] = from[e];
    rest[2 * e] = rest[2 * e + 1] = capacity[e];
    next[2 * e] = first[from[e]];
    first[from[e]] = 2 * e;
    next[2 * e + 1] = first[to[e]];
    first[to[e]] = 2 * e + 1;
  }
  const left = terminal.slice();
  /** arc from a node to its parent */
  const parent = new Int32Array(nodes).fill(NONE);
  const sink = new Uint8Array(nodes);
  const distance = new Int32Array(nodes);
  const stamp = new Int32Array(nodes);
  const queued = new Uint8Array(nodes);
  const queue: number[] = [];
  let at = 0;
  let time = 0;
  const wake = (i: number): void => {
    if (queued[i]) return;
    queued[i] = 1;
    queue.push(i);
  };
  for (let i = 0; i < nodes; i++)
    if (left[i] !== 0) {
      parent[i] = TERMINAL;
      sink[i] = left[i] < 0 ? 1 : 0;
      distance[i] = 1;
      wake(i);
    }
  let orphans: number[] = [];
  const orphan = (i: number): void => {
    parent[i] = ORPHAN;
    orphans.push(i);
  };

  /** Pushes what fits along the path over the arc from the source's tree to the sink's. */
  const augment = (bridge: number): void => {
    let room = rest[bridge];
    let i = head[bridge ^ 1];
    for (; parent[i] !== TERMINAL; i = head[parent[i]]) room = Math.min(room, rest[parent[i] ^ 1]);
    room = Math.min(room, left[i]);
    i = head[bridge];
    for (; parent[i] !== TERMINAL; i = head[parent[i]]) room = Math.min(room, rest[parent[i]]);
    room = Math.min(room, -left[i]);
    rest[bridge] -= room;
    rest[bridge ^ 1] += room;
    for (i = head[bridge ^ 1]; parent[i] !== TERMINAL;) {
      const arc = parent[i];
      const up = head[arc];
      rest[arc] += room;
      rest[arc ^ 1] -= room;
      if (rest[arc ^ 1] <= 0) orphan(i);
      i = up;
    }
    left[i] -= room;
    if (left[i] <= 0) orphan(i);
    for (i = head[bridge]; parent[i] !== TERMINAL;) {
      const arc = parent[i];
      const up = head[arc];
      rest[arc ^ 1] += room;
      rest[arc] -= room;
      if (rest[arc] <= 0) orphan(i);
      i = up;
    }
    left[i] += room;
    if (left[i] >= 0) orphan(i);
  };

  /** Distance to the terminal along parents that still hold, or 0 when the way ends at an orphan. */
  const origin = (start: number): number => {
    let steps = 0;
    for (let i = start; ; i = head[parent[i]]) {
      if (stamp[i] === time) {
        steps += distance[i];
        break;
      }
      steps++;
      if (parent[i] === TERMINAL) {
        stamp[i] = time;
        distance[i] = 1;
        break;
      }
      if (parent[i] < 0) return 0;
    }
    let d = steps;
    for (let i = start; stamp[i] !== time; i = head[parent[i]]) {
      stamp[i] = time;
      distance[i] = d--;
    }
    return steps;
  };

  const adopt = (i: number): void => {
    let best = NONE;
    let nearest = Infinity;
    for (let arc = first[i]; arc !== NONE; arc = next[arc]) {
      const j = head[arc];
      if (sink[j] !== sink[i] || parent[j] === NONE) continue;
      // in the source's tree light comes from the parent, in the sink's it goes there
      if ((sink[i] ? rest[arc] : rest[arc ^ 1]) <= 0) continue;
      const d = origin(j);
      if (d > 0 && d < nearest) {
        nearest = d;
        best = arc;
      }
    }
    if (best !== NONE) {
      parent[i] = best;
      stamp[i] = time;
      distance[i] = nearest + 1;
      return;
    }
    for (let arc = first[i]; arc !== NONE; arc = next[arc]) {
      const j = head[arc];
      if (parent[j] === NONE || sink[j] !== sink[i]) continue;
      if ((sink[i] ? rest[arc] : rest[arc ^ 1]) > 0) wake(j);
      if (parent[j] >= 0 && head[parent[j]] === i) orphan(j);
    }
    parent[i] = NONE;
  };

  while (at < queue.length) {
    const i = queue[at];
    let bridge = NONE;
    if (parent[i] !== NONE)
      for (let arc = first[i]; arc !== NONE; arc = next[arc]) {
        if ((sink[i] ? rest[arc ^ 1] : rest[arc]) <= 0) continue;
        const j = head[arc];
        if (parent[j] === NONE) {
          sink[j] = sink[i];
          parent[j] = arc ^ 1;
          stamp[j] = stamp[i];
          distance[j] = distance[i] + 1;
          wake(j);
        } else if (sink[j] !== sink[i]) {
          bridge = sink[i] ? arc ^ 1 : arc;
          break;
        } else if (stamp[j] <= stamp[i] && distance[j] > distance[i]) {
          // a shorter way to the terminal
          parent[j] = arc ^ 1;
          stamp[j] = stamp[i];
          distance[j] = distance[i] + 1;
        }
      }
    if (bridge === NONE) {
      queued[i] = 0;
      at++;
      if (at > 65536 && at * 2 > queue.length) {
        queue.splice(0, at);
        at = 0;
      }
      continue;
    }
    time++;
    augment(bridge);
    while (orphans.length > 0) {
      const list = orphans;
      orphans = [];
      for (const o of list) if (parent[o] === ORPHAN) adopt(o);
    }
  }
  return Uint8Array.from(sink, (s, i) => (parent[i] !== NONE && s ? 1 : 0));
}
