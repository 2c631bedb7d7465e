'use client';
import { FONT } from '@/ui/tokens';

/** The number of a mark on the table, beside it. @param x of the table, screen pixels */
export function MarkNumber({
  x,
  y,
  number,
}: {
  readonly x: number;
  readonly y: number;
  readonly number: number;
}) {
  return (
    <text
      x={x}
      y={y}
      fill="#fff"
      stroke="#000"
      strokeWidth="3"
      paintOrder="stroke"
      style={{ font: `12px ${FONT.number}` }}
    >
      {number}
    </text>
  );
}
