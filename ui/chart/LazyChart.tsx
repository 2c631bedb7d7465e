'use client';
import { type ComponentType, lazy, Suspense } from 'react';
import { type BarChartProps } from './BarChart';
import { type ToneChartProps } from './ToneChart';

// the charting library is a third of what the bench loads, and no chart is on the first screen
const loadBars = () => import('./BarChart');
const loadTones = () => import('./ToneChart');

/** milliseconds after which the charts are fetched before anyone asks: later there may be no network */
const AHEAD = 2500;
const missing = {
  default: () => <p>The chart could not be loaded. Reload the page once there is a connection.</p>,
};

if (typeof window !== 'undefined')
  setTimeout(() => {
    loadBars().catch(() => undefined);
    loadTones().catch(() => undefined);
  }, AHEAD);

const LazyBars = lazy<ComponentType<BarChartProps>>(() =>
  loadBars()
    .then((m) => ({ default: m.BarChart }))
    .catch(() => missing),
);
const LazyTones = lazy<ComponentType<ToneChartProps>>(() =>
  loadTones()
    .then((m) => ({ default: m.ToneChart }))
    .catch(() => missing),
);

/** height of one bar with its space, pixels */
const BAR = 23;

/** Bars of the same kind beside each other, loaded when it is first shown. */
export function BarChart(props: BarChartProps) {
  return (
    <Suspense fallback={<div style={{ height: props.bars.length * BAR + 6 }} />}>
      <LazyBars {...props} />
    </Suspense>
  );
}

/** How the tones lie, loaded when it is first shown. */
export function ToneChart(props: ToneChartProps) {
  return (
    <Suspense fallback={<div style={{ height: 92 }} />}>
      <LazyTones {...props} />
    </Suspense>
  );
}
