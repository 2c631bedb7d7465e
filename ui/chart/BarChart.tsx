'use client';
import { Suspense } from 'react';
import { styled } from 'styled-components';
import { drawnLater } from './drawnLater';

const DrawnBars = drawnLater(async () => (await import('./DrawnBars')).DrawnBars);

const Frame = styled.div`
  position: relative;
`;

export interface BarChartProps {
  /** what is shown, for those who cannot see it */
  readonly label: string;
  readonly bars: readonly { readonly name: string; readonly value: number; readonly colour?: string }[];
  /** end of the scale */
  readonly max: number;
  /** a line to stay below */
  readonly limit?: number;
  readonly format: (value: number) => string;
}

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
