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

/** Dabs: “this” is light with a dark rim, “not this” dark with a light rim and broken, what is undecided a wide light veil with a broken middle. */
export function DabMarks({ dabs }: { readonly dabs: readonly DabPath[] }) {
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round">
      {dabs.map(({ is, path }, i) => (
        <g key={i}>
          <path
            d={path}
            stroke={is === 'this' ? '#000' : '#fff'}
            strokeOpacity={is === 'edge' ? 0.35 : 0.75}
            strokeWidth={is === 'edge' ? 34 : 8}
          />
          <path
            d={path}
            stroke={is === 'this' ? '#fff' : '#000'}
            strokeWidth={is === 'edge' ? 1.6 : 4.6}
            {...(is === 'this' ? {} : { strokeDasharray: is === 'not' ? '1 8' : '5 5' })}
          />
        </g>
      ))}
    </g>
  );
}
