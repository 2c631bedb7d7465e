'use client';
import { Suspense } from 'react';
import { drawnLater } from './drawnLater';
import { type EdgeChartProps } from './edgeChartProps';

const DrawnEdge = drawnLater(async () => (await import('./DrawnEdge')).DrawnEdge);

/** How tone runs across an edge, in stops against pixels. */
export function EdgeChart(props: EdgeChartProps) {
  return (
    <div role="img" aria-label={props.label} style={{ height: 108, position: 'relative' }}>
      <Suspense>
        <DrawnEdge {...props} />
      </Suspense>
    </div>
  );
}
