// Draws the mask of one region over 24 MP as views and files do, and prints how much memory that took at most, bytes. Argument: what shapes the mask.
import { evaluate } from '@/core/graph/evaluate';
import { buildGraph } from '@/core/graph/graph';
import { versionOf } from '@/core/graph/operators';
import { tileCache } from '@/core/graph/tileCache';
import { compileRegion } from '@/core/region/compileRegion';
import { EVERYWHERE, type Region } from '@/core/region/region';
import { TILE } from '@/core/view/drawPicture';

/** the widest that the gate lets through, shares of the long edge */
const WIDEST = { smooth: 0.05, grow: 0.1, feather: 0.2, follow: 0.2 };
const [WIDTH, HEIGHT] = [6000, 4000];

const shape = process.argv[2] as keyof typeof WIDEST | 'all';
const region: Region = {
  ...EVERYWHERE,
  ...{ id: 'mask', name: 'mask' },
  parts: [
    {
      ...{ how: 'add', turned: false, on: true },
      part: { kind: 'ellipse', settings: { x: 0.5, y: 0.3, across: 0.2, down: 0.1, turn: 0, soft: 0.02 } },
    },
  ],
  ...(shape === 'all' ? WIDEST : { [shape]: WIDEST[shape] }),
};
const builder = buildGraph(versionOf);
const picture = builder.add('fillGradient', {
  ...{ from: [0.1, 0.2, 0.3], to: [0.9, 0.8, 0.7] },
  ...{ x0: 0, y0: 0, x1: 1, y1: 0.5 },
});
const hash = compileRegion(builder, region, { longEdge: WIDTH, named: () => undefined, picture });
if (hash === undefined) throw new Error('the region is everywhere');
const world = { made: () => undefined, cache: tileCache(64e6), keeps: () => false };
const draw = (x: number, y: number): unknown =>
  evaluate(
    builder.graph,
    hash,
    { level: 0, area: { x, y, width: TILE, height: TILE }, kernel: 'bilinear' },
    world,
  );
const start = process.memoryUsage.rss();
let most = start;
for (let y = 0; y < HEIGHT; y += TILE)
  // one or two tiles of a row: all of them take as much, and minutes
  for (let x = ((y / TILE) % 16) * TILE; x < WIDTH; x += 16 * TILE) {
    draw(x, y);
    most = Math.max(most, process.memoryUsage.rss());
  }
process.stdout.write(JSON.stringify({ bytes: most - start }));
