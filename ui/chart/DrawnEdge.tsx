'use client';
import { Chart, Filler, LinearScale, LineElement, PointElement } from 'chart.js';
import { memo } from 'react';
import { Line } from 'react-chartjs-2';
import { useSurround } from '../surround';
import { colourNow, FONT } from '../tokens';
import { type EdgeChartProps } from './edgeChartProps';

Chart.register(LinearScale, PointElement, LineElement, Filler);

/** where the edge itself is */
const edgeLine = {
  id: 'edgeLine',
  beforeDatasetsDraw: ({ ctx, chartArea, scales }: Chart) => {
    const x = scales.x.getPixelForValue(0);
    ctx.save();
    ctx.setLineDash([2, 3]);
    ctx.strokeStyle = colourNow('quiet');
    ctx.beginPath();
    ctx.moveTo(x, chartArea.top);
    ctx.lineTo(x, chartArea.bottom);
    ctx.stroke();
    ctx.restore();
  },
};

/** The curve of an {@link EdgeChart}, once there is what draws it. */
export const DrawnEdge = memo(function DrawnEdge({ at, tone, low, high }: EdgeChartProps) {
  const surround = useSurround();
  const points = (of: readonly number[]) => at.map((x, i) => ({ x, y: of[i] }));
  const plain = { pointRadius: 0, borderWidth: 0 } as const;
  const ink = colourNow('ink');
  const [least, most] = [Math.min(...low), Math.max(...high)];
  const axis = { grid: { display: false }, border: { color: colourNow('line') } };
  const ticks = { color: colourNow('quiet'), font: { family: FONT.number, size: 11 }, maxRotation: 0 };
  return (
    <Line
      key={surround}
      aria-hidden
      data={{
        datasets: [
          { ...plain, data: points(low), fill: '+1', backgroundColor: `${ink}30` },
          { ...plain, data: points(high), fill: false },
          { ...plain, data: points(tone), borderColor: ink, borderWidth: 1.5 },
        ],
      }}
      options={{
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
        scales: {
          x: {
            ...axis,
            type: 'linear',
            min: at[0],
            max: at[at.length - 1],
            ticks: { ...ticks, maxTicksLimit: 5, callback: (v) => `${String(v).replace('-', '−')} px` },
          },
          y: {
            ...axis,
            // a flat edge must not look like a cliff
            min: Math.min(-0.25, least),
            max: Math.max(0.25, most),
            ticks: {
              ...ticks,
              maxTicksLimit: 4,
              callback: (v) => `${Number(v).toFixed(1).replace('-', '−')} EV`,
            },
          },
        },
      }}
      plugins={[edgeLine]}
    />
  );
});
