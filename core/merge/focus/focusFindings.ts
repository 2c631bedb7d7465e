import { type Finding, judge } from '../../proof/finding';
import { type FocusMap } from './focusMap';

/** Findings of a focus merge. @param scales magnification of each fitted frame against the reference, 1 for none */
export function focusFindings(map: FocusMap, scales: readonly number[]): Finding[] {
  const { width: w, height: h, level, cells } = map.unsharp;
  const blocks = new Map<number, number>();
  let count = 0;
  const size = 4;
  cells.forEach((u, i) => {
    if (!u) return;
    count++;
    const key = Math.floor(Math.floor(i / w) / size) * 10000 + Math.floor((i % w) / size);
    blocks.set(key, (blocks.get(key) ?? 0) + 1);
  });
  const worst = [...blocks].reduce<[number, number] | undefined>(
    (a, b) => (!a || b[1] > a[1] ? b : a),
    undefined,
  );
  const k = 2 ** level;
  const where = worst && {
    x: (worst[0] % 10000) * size * k,
    y: Math.floor(worst[0] / 10000) * size * k,
    width: size * k,
    height: size * k,
  };
  const breathing = scales.reduce((m, s) => Math.max(m, Math.abs(s - 1)), 0);
  return [
    judge('merge.focusGap', (100 * count) / (w * h), where ? { where } : {}),
    judge('fit.breathing', 100 * breathing, {
      why: `The magnification changes by ${(100 * breathing).toFixed(2)} % from frame to frame; the fit takes it out.`,
    }),
  ];
}
