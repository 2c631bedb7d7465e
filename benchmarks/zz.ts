import { readFileSync } from 'node:fs';
import { decode } from 'fast-png';
import { labOf, deltaE2000 } from '@/core/colour/deltaE';
import { srgbToLinear } from '@/core/raster/srgb';
const px = (f: string) => { const p = decode(readFileSync(f)); const m = p.depth === 16 ? 65535 : 255; return { ...p, at: (i: number, c: number) => p.data[p.channels * i + Math.min(c, p.channels - 1)] / m }; };
for (const [d, out] of [['', 'heron'], ['water/', 'pool']] as const) {
  const r = '/work/shared/research/ground/' + d;
  const [bg, tr, al, res] = [px(r + 'background.png'), px(r + 'truth.png'), px(r + 'truth_alpha.png'), px(process.argv[2] ? `${process.argv[2]}-${out}.png` : `/tmp/w/place-${out}.png`)];
  const n = bg.width * bg.height;
  const lab = (p: typeof bg, i: number) => labOf(srgbToLinear(p.at(i, 0)), srgbToLinear(p.at(i, 1)), srgbToLinear(p.at(i, 2)));
  const sum: Record<string, [number, number]> = {};
  const add = (k: string, v: number) => { (sum[k] ??= [0, 0])[0] += v; sum[k][1]++; };
  for (let i = 0; i < n; i++) {
    const a = al.at(i, 0), lb = srgbToLinear(bg.at(i, 1)), lt = srgbToLinear(tr.at(i, 1));
    const e = deltaE2000(lab(res, i), lab(tr, i));
    if (a > 0.9) add('inside', e);
    else if (a === 0 && Math.abs(lt / lb - 1) > 0.08) { add('zone', e); add('zone before', deltaE2000(lab(bg, i), lab(tr, i))); }
    else if (a === 0) { const ch = deltaE2000(lab(res, i), lab(bg, i)); add('elsewhere changed', ch); if (ch > 0.5) add('wrongly touched', e); }
  }
  console.log(out, Object.fromEntries(Object.entries(sum).map(([k, [s, c]]) => [k, `${(s / c).toFixed(2)} (${c})`])));
}
