import { type Dab, dabSeeds } from '../cutout/dab';
import { evaluate } from '../graph/evaluate';
import { inLight } from '../graph/light';
import { lightOf } from '../graph/wanted';
import { type DabbedLight } from '../region/parted/partBy';
import { plainWorld } from './followGraph';
import { type DrawnGraph } from './viewScene';

/** pixels that are drawn to read the light under dabs, at most */
const DRAWN = 3e5;

/** Linear light of a node under dabs. @param dabs full-size pixels of its grid */
export function dabbedLight({ nodes, made }: DrawnGraph, node: string, dabs: readonly Dab[]): DabbedLight {
  const xs = dabs.flatMap(({ size, points }) => points.flatMap(([x]) => [x - size, x + size]));
  const ys = dabs.flatMap(({ size, points }) => points.flatMap(([, y]) => [y - size, y + size]));
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const level = Math.max(0, Math.ceil(Math.log2((wide * high) / DRAWN) / 2));
  const scale = 2 ** level;
  const area = {
    x: Math.floor(left / scale),
    y: Math.floor(top / scale),
    width: Math.max(1, Math.ceil(wide / scale)),
    height: Math.max(1, Math.ceil(high / scale)),
  };
  const light = lightOf(evaluate(nodes, node, { level, area, kernel: 'lanczos' }, plainWorld(made)), 'dabs');
  const { planes, alpha } = inLight(light, false);
  const onArea = dabs.map(({ is, size, points }) => ({
    is,
    size: size / scale,
    points: points.map(
      ([x, y]) => [(x + 0.5) / scale - 0.5 - area.x, (y + 0.5) / scale - 0.5 - area.y] as const,
    ),
  }));
  const seeds = dabSeeds(onArea, area.width, area.height);
  const under = (label: number): Float32Array => {
    const out: number[] = [];
    seeds.forEach((seed, i) => {
      if (seed === label && !(alpha && alpha[i] < 0.5)) out.push(planes[0][i], planes[1][i], planes[2][i]);
    });
    return Float32Array.from(out);
  };
  return { inside: under(1), outside: under(0) };
}
