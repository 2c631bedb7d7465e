'use client';
import { type Dab } from '@/core/cutout/dab';

/** A dab as a path on the table. */
export interface DabPath {
  readonly is: Dab['is'];
  readonly path: string;
}

/** A path through points of the table; one point is as good as a short line. */
export const dabPath = (points: readonly (readonly [x: number, y: number])[]): string =>
  points.length === 1
    ? `M${points[0].join(' ')}h0.01`
    : `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`;

/** Dabs: “this” is light with a dark rim, “not this” dark with a light rim and broken. */
export function DabMarks({ dabs }: { readonly dabs: readonly DabPath[] }) {
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round">
      {dabs.map(({ is, path }, i) => (
        <g key={i}>
          <path d={path} stroke={is === 'this' ? '#000' : '#fff'} strokeOpacity="0.75" strokeWidth="8" />
          <path
            d={path}
            stroke={is === 'this' ? '#fff' : '#000'}
            strokeWidth="4.6"
            {...(is === 'not' ? { strokeDasharray: '1 8' } : {})}
          />
        </g>
      ))}
    </g>
  );
}
