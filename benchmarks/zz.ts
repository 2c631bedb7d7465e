
import { paint, waves } from '@/tests/paint';
const w = waves(3, 12);
const W = 3000, H = 2000;
const img = paint(W, H, (x, y) => { const v = 0.2 + 0.6 * w(x & 511, y & 511); return [v, v * 0.9, v * 0.8]; }, 65535);
const frames = [img, img, img, img, img];
const SOME: any = { exposure: { stops: 1 }, vignette: { x: 0.4, y: 0.3, across: 0.2, down: 0.15, stops: 1.5, inner: 0.5 }, glow: { amount: 0.7, from: 0, reach: 120, warmth: 0.5 }, veil: { amount: 0.6, radius: 20 }, detail: { fine: 0.5, middle: -0.4, broad: 0.6 }, deblur: { radius: 1.2, steps: 8, ringing: 0.1 }, overTime: { how: 'streaks', reach: 24 }, sharpen: { radius: 1.7, amount: 1, edge: 0.25 }, tint: { points: [{ at: -4, hue: 250, strength: 0.03 }, { at: 1, hue: 50, strength: 0.06 }] } };
const tiles: any[] = [];
for (let y = 0; y < H; y += 512) for (let x = 0; x < W; x += 512) tiles.push({ x, y, width: Math.min(512, W - x), height: Math.min(512, H - y) });
import * as P from '@/tests/editedPicture';
for (const [kind, s] of Object.entries(SOME) as any) {
  const run = P.editedTiles(img, kind, s);
  run(tiles[0]);
  const t0 = performance.now();
  for (let i = 0; i < tiles.length; i += 4) run(tiles[i]);
  const all = (performance.now() - t0) * tiles.length / Math.ceil(tiles.length / 4);
  console.log(kind, 'one worker', all.toFixed(0), 'ms; two', (all / 2).toFixed(0));
}
