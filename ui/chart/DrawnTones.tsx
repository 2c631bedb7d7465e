'use client';
import { CategoryScale, Chart, Filler, LinearScale, LineElement, PointElement } from 'chart.js';
import { memo } from 'react';
import { Line } from 'react-chartjs-2';
import { useSurround } from '../surround';
import { colourNow, FONT } from '../tokens';
import { type ToneChartProps } from './toneChartProps';

Chart.register(CategoryScale, LinearScale, PointElement, LineElement, Filler);
Chart.defaults.font.family = FONT.number;

/** The curve of a {@link ToneChart}, once there is what draws it. */
export const DrawnTones = memo(function DrawnTones({ shares, first }: ToneChartProps) {
  const surround = useSurround();
  const stops = shares.map((_, i) => first + i / 3);
  const top = Math.max(0.02, ...shares.slice(1, -1));
  return (
    <Line
      key={surround}
      aria-hidden
      data={{
        labels: stops.map((s) => s.toFixed(2)),
        datasets: [
          {
            data: shares.map((s) => Math.min(top, s)),
            borderColor: colourNow('ink'),
            borderWidth: 1,
            backgroundColor: `${colourNow('ink')}47`,
            fill: true,
            pointRadius: 0,
            tension: 0.3,
          },
        ],
      }}
      options={{
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
        scales: {
          y: { display: false, min: 0, max: top * 1.05 },
          x: {
            grid: { display: false },
            ticks: {
              autoSkip: false,
              maxRotation: 0,
              callback: (_, i) => {
                const s = stops[i];
                const whole = Math.round(s);
                return Math.abs(s - whole) < 1e-6 && whole % 2 === 0
                  ? `${whole > 0 ? '+' : whole < 0 ? '−' : ''}${Math.abs(whole)}`
                  : '';
              },
            },
          },
        },
      }}
    />
  );
});
