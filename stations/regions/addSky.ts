import { type Dab } from '@/core/cutout/dab';
import { type LaidPicture } from '@/core/graph/compiledPicture';
import { type WorkerPool } from '@/engine/workerPool';
import { drawnGraph } from '@/store/buildScene';
import { type Bench } from '@/store/benchState';
import { addPart, type RegionOwner } from '@/store/edits/regions';
import { laidPicture, readFrom, toLaid } from './laidPicture';
import { REGION_TEXT as TEXT } from './text';

/** surer than this it is taken for a sky */
const SKY_LIKELY = 0.25;

/** Dabs of a picture's grid as those of the picture that lies there. @param longEdge of the grid, pixels */
function laidDabs(dabs: readonly Dab[], laid: LaidPicture, longEdge: number): Dab[] {
  return dabs.map(({ is, size, points }) => {
    const at = (x: number, y: number): readonly [number, number] => toLaid(laid, x * longEdge, y * longEdge);
    const [[x, y]] = points;
    const [u, v] = at(x, y);
    const [u2, v2] = at(x + size, y);
    return { is, size: Math.hypot(u2 - u, v2 - v), points: points.map(([px, py]) => at(px, py)) };
  });
}

/** A region that is to have the sky. */
export interface SkyAsked {
  readonly bench: Bench;
  readonly viewer: WorkerPool;
  readonly owner: RegionOwner;
  /** of what has the region */
  readonly name: string;
}

/**
 * Finds the sky and adds it as a thing, with the dabs that a hand would have drawn: more can be drawn, and any taken out.
 * @returns what to say of it
 */
export async function addSky({ bench, viewer, owner, name }: SkyAsked): Promise<string> {
  const { built } = bench.shown(bench.store.getState());
  const node = built && readFrom(built.compiled, owner);
  const drawn = built && node !== undefined ? drawnGraph(built, [node]) : undefined;
  if (!built || !drawn || node === undefined) return TEXT.skyWaits;
  const { compiled } = built;
  const { width, height } = compiled;
  const found = await viewer.run((tasks) => tasks.findSky(drawn, node, { width, height }));
  if (!found || found.sure < SKY_LIKELY) return TEXT.noSky;
  const dabs = laidDabs(found.dabs, laidPicture(compiled, owner), Math.max(width, height));
  bench.actions.edit(`${TEXT.sky} of ${name}`, addPart(owner, 'add', { kind: 'thing', settings: { dabs } }));
  return TEXT.skyFound(found.sure);
}
