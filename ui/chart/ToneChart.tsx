'use client';
import { Suspense } from 'react';
import { type ToneChartProps } from './toneChartProps';
import { drawnLater } from './drawnLater';

const DrawnTones = drawnLater(async () => (await import('./DrawnTones')).DrawnTones);

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
