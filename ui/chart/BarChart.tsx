'use client';
import { Suspense } from 'react';
import { styled } from 'styled-components';
import { type BarChartProps } from './barChartProps';
import { drawnLater } from './drawnLater';

const DrawnBars = drawnLater(async () => (await import('./DrawnBars')).DrawnBars);

const Frame = styled.div`
  position: relative;
`;

/** Lying bars with their values, one a row. */
export function BarChart(props: BarChartProps) {
  const { label, bars, format } = props;
  return (
    <Frame
      role="img"
      aria-label={`${label}: ${bars.map((b) => `${b.name} ${format(b.value)}`).join(', ')}`}
      style={{ height: bars.length * 23 + 6 }}
    >
      <Suspense>
        <DrawnBars {...props} />
      </Suspense>
    </Frame>
  );
}
