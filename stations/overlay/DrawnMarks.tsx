'use client';
import { type Line } from '@/core/finish/straighten';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { OverlaySvg, PlaceMark } from './PlaceMark';
import { type Drawn } from './useDrawTool';

interface On {
  readonly viewport: Viewport;
  readonly table: Size;
}

function LineMark({ line, viewport, table }: { line: Line } & On) {
  const [x0, y0] = toTable(viewport, table, line[0], line[1]);
  const [x1, y1] = toTable(viewport, table, line[2], line[3]);
  return (
    <g fill="none">
      <line x1={x0} y1={y0} x2={x1} y2={y1} stroke="#000" strokeOpacity="0.6" strokeWidth="3.5" />
      <line x1={x0} y1={y0} x2={x1} y2={y1} stroke="#fff" strokeWidth="1.4" />
      {[
        [x0, y0],
        [x1, y1],
      ].map(([x, y], i) => (
        <circle key={i} cx={x} cy={y} r="3.5" fill="#fff" stroke="#000" strokeOpacity="0.7" />
      ))}
    </g>
  );
}

/** What the hand is drawing. */
export function DrawnMarks({ drawn, viewport, table }: { drawn: Drawn } & On) {
  const { tool, line, first } = drawn;
  const [x0, y0, x1, y1] = line;
  const box = {
    x: Math.min(x0, x1),
    y: Math.min(y0, y1),
    width: Math.abs(x1 - x0),
    height: Math.abs(y1 - y0),
  };
  return (
    <OverlaySvg aria-hidden>
      {first && <LineMark line={first} viewport={viewport} table={table} />}
      {tool === 'level' || tool === 'upright' ? (
        <LineMark line={line} viewport={viewport} table={table} />
      ) : (
        box.width > 2 && <PlaceMark place={box} viewport={viewport} table={table} />
      )}
    </OverlaySvg>
  );
}
