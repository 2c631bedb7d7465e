'use client';
import { type ComponentProps, lazy, Suspense } from 'react';

// the charting library is a third of what the bench loads, and no chart is on the first screen
const Bars = lazy(async () => ({ default: (await import('./BarChart')).BarChart }));
const Tones = lazy(async () => ({ default: (await import('./ToneChart')).ToneChart }));

/** height of one bar with its space, pixels */
const BAR = 23;

/** {@link import('./BarChart').BarChart}, loaded when it is first shown. */
export function BarChart(props: ComponentProps<typeof Bars>) {
  return (
    <Suspense fallback={<div style={{ height: props.bars.length * BAR + 6 }} />}>
      <Bars {...props} />
    </Suspense>
  );
}

/** {@link import('./ToneChart').ToneChart}, loaded when it is first shown. */
export function ToneChart(props: ComponentProps<typeof Tones>) {
  return (
    <Suspense fallback={<div style={{ height: 92 }} />}>
      <Tones {...props} />
    </Suspense>
  );
}
