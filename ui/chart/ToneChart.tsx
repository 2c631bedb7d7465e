'use client';
import { Suspense } from 'react';
import { drawnLater } from './drawnLater';

const DrawnTones = drawnLater(async () => (await import('./DrawnTones')).DrawnTones);

export interface ToneChartProps {
  readonly label: string;
  /** share of the pixels in each step of a third of a stop, from `first` stops on */
  readonly shares: readonly number[];
  /** stops from middle grey of the first share */
  readonly first: number;
}

/** How the tones lie, in stops from middle grey. */
export function ToneChart(props: ToneChartProps) {
  return (
    <div role="img" aria-label={props.label} style={{ height: 92, position: 'relative' }}>
      <Suspense>
        <DrawnTones {...props} />
      </Suspense>
    </div>
  );
}
