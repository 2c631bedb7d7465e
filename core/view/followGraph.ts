import { type World } from '../graph/evaluate';
import { type Node } from '../graph/graph';
import { tileCache } from '../graph/tileCache';
import { type At, type Value } from '../graph/tile';
import { type Rectangle } from '../raster/raster';
import { TILE } from './drawPicture';
import { type DrawnGraph } from './viewScene';

/** Follows the graphs of one picture as it is changed, and keeps the tiles that the next change will ask for. */
export interface FollowedGraph {
  /**
   * @param slot what is looked at: graphs of one slot follow one another
   * @param isPatch whether a small part is drawn anew: what changes is evaluated just there, what holds still in whole tiles, which the next
   * patch beside it finds again
   */
  readonly world: (drawn: DrawnGraph, root: string, slot: string, isPatch?: boolean) => World;
}

/** The nodes of a graph by hash, and what was last changed in it. */
interface Followed {
  readonly nodes: ReadonlyMap<string, Node>;
  /** nodes that do not change while the hand moves, but whose consumers do */
  readonly frontier: ReadonlySet<string>;
}

/**
 * While a slider moves, the same steps change again and again, and what they are made from does not. So what is kept is the picture itself and
 * every tile that a changing step takes from one that holds still.
 * @param most bytes of tiles in all
 */
export function followGraph(most: number): FollowedGraph {
  const cache = tileCache(most);
  const slots = new Map<string, Followed>();
  return {
    world: (drawn, root, slot, isPatch = false) => {
      const before = slots.get(slot);
      const { nodes, made } = drawn;
      const changed = before ? [...nodes.values()].filter((n) => !before.nodes.has(n.hash)) : [];
      const fresh = new Set(changed.map((n) => n.hash));
      const frontier =
        changed.length > 0
          ? new Set(changed.flatMap((n) => n.inputs).filter((hash) => hash !== '' && !fresh.has(hash)))
          : (before?.frontier ?? new Set<string>());
      slots.set(slot, { nodes, frontier });
      return {
        made: (hash) => made.get(hash),
        cache,
        keeps: (hash) => (hash === root && !isPatch) || frontier.has(hash),
        ...(isPatch ? { keptAt: tileAround } : {}),
      };
    },
  };
}

/** pixels by which what reaches over the edge of a tile is rounded outwards */
const STEP = 64;

/** The tile that a place lies in; of one that lies in several, a place around it that others beside it share. */
function tileAround(at: At): At {
  const { x, y, width, height } = at.area;
  const within = (step: number): Rectangle => {
    const [left, top] = [Math.floor(x / step) * step, Math.floor(y / step) * step];
    return {
      x: left,
      y: top,
      width: Math.ceil((x + width - left) / step) * step,
      height: Math.ceil((y + height - top) / step) * step,
    };
  };
  const tile = within(TILE);
  return { ...at, area: tile.width === TILE && tile.height === TILE ? tile : within(STEP) };
}

/** Evaluates without keeping anything. */
export function plainWorld(made: ReadonlyMap<string, Value>): World {
  return {
    made: (hash) => made.get(hash),
    cache: { get: () => undefined, set: () => undefined },
    keeps: () => false,
  };
}
