'use client';
import { FONT } from '@/ui/tokens';

export interface MarkTextProps {
  /** of the table, screen pixels */
  readonly x: number;
  readonly y: number;
  readonly children: string | number;
}

/** What stands beside a mark on the table: a number, a length. */
export function MarkText({ x, y, children }: MarkTextProps) {
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
      {children}
    </text>
  );
}
