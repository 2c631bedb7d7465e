'use client';
import { invert, type Matrix3, transform } from '@/core/raster/matrix3';
import { type LocalBend } from '@/core/register/parallax/localBend';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';

/** arrows in a row at most */
const IN_A_ROW = 26;

const everyOf = ({ columns }: LocalBend): number => Math.max(1, Math.ceil(columns / IN_A_ROW));

/** How much longer the arrows of a bend are drawn than what they measure: so that they just do not run into each other. */
export function bendArrows(bend: LocalBend): number {
  const room = everyOf(bend) * bend.cell;
  const times = [10, 5, 2, 1].find((k) => k * bend.bends.most <= room);
  return times ?? 1;
}

interface Marks {
  readonly bend: LocalBend;
  /** reference pixel → pixel of the frame as it came */
  readonly matrix: Matrix3;
  readonly viewport: Viewport;
  readonly table: Size;
}

/** How a frame is bent, as arrows, and crosses where that is unsure. */
export function BendMarks({ bend, matrix, viewport, table }: Marks) {
  const back = invert(matrix);
  const { columns, rows, cell, shifts } = bend;
  const at = (x: number, y: number): [number, number] => {
    const [u, v] = transform(back, x, y);
    return toTable(viewport, table, u + 0.5, v + 0.5);
  };
  const [every, times] = [everyOf(bend), bendArrows(bend)];
  const { x: left, y: top, width, height } = bend.inside;
  const isSeen = (v: number): boolean => {
    const [x, y] = [(v % columns) * cell, Math.floor(v / columns) * cell];
    return x >= left && y >= top && x < left + width && y < top + height;
  };
  const unsure = new Set(bend.unsure);
  const shown = Array.from({ length: columns * rows }, (_, v) => v).filter(
    (v) =>
      (v % columns) % every === 0 && Math.floor(v / columns) % every === 0 && !unsure.has(v) && isSeen(v),
  );
  return (
    <>
      {shown.map((v) => {
        const [px, py] = [(v % columns) * cell, Math.floor(v / columns) * cell];
        const [x, y] = at(px, py);
        const [u, w] = at(px + times * shifts[2 * v], py + times * shifts[2 * v + 1]);
        return (
          <g key={v}>
            <line x1={x} y1={y} x2={u} y2={w} stroke="#fff" strokeWidth="3" strokeOpacity="0.75" />
            <line x1={x} y1={y} x2={u} y2={w} stroke="#0d5566" strokeWidth="1.6" />
            <circle cx={x} cy={y} r="1.7" fill="#0d5566" stroke="#fff" strokeWidth="0.7" />
          </g>
        );
      })}
      {bend.unsure.filter(isSeen).map((v) => {
        const [x, y] = at((v % columns) * cell, Math.floor(v / columns) * cell);
        const d = `M${x - 2.5} ${y - 2.5}l5 5m0-5l-5 5`;
        return (
          <g key={v} fill="none">
            <path d={d} stroke="#fff" strokeWidth="2.6" strokeOpacity="0.7" />
            <path d={d} stroke="#9a5200" strokeWidth="1.3" />
          </g>
        );
      })}
    </>
  );
}
