'use client';
import { BarElement, CategoryScale, Chart, LinearScale } from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { useSurround } from '../surround';
import { colourNow, FONT } from '../tokens';
import { type BarChartProps } from './barChartProps';

Chart.register(BarElement, CategoryScale, LinearScale);
Chart.defaults.font.family = FONT.number;
Chart.defaults.font.size = 11;
Chart.defaults.color = () => colourNow('quiet');

/** The bars of a {@link BarChart}, once there is what draws them. */
export function DrawnBars({ bars, max, limit, format }: BarChartProps) {
  const surround = useSurround();
  const values = {
    id: 'values',
    afterDatasetsDraw: ({ ctx, chartArea, scales }: Chart) => {
      ctx.save();
      ctx.textBaseline = 'middle';
      ctx.textAlign = 'right';
      ctx.fillStyle = colourNow('ink');
      ctx.font = `11px ${FONT.number}`;
      bars.forEach((b, i) =>
        ctx.fillText(format(b.value), chartArea.right + 62, scales.y.getPixelForValue(i)),
      );
      if (limit !== undefined && limit <= max) {
        const x = scales.x.getPixelForValue(limit);
        ctx.setLineDash([2, 3]);
        ctx.strokeStyle = colourNow('quiet');
        ctx.beginPath();
        ctx.moveTo(x, chartArea.top);
        ctx.lineTo(x, chartArea.bottom);
        ctx.stroke();
      }
      ctx.restore();
    },
  };
  return (
    <Bar
      // the values are drawn by a part of the chart that is only taken over when it is made
      key={`${surround} ${bars.map((b) => b.value).join()}`}
      aria-hidden
      data={{
        labels: bars.map((b) => b.name),
        datasets: [
          {
            data: bars.map((b) => Math.min(max, b.value)),
            backgroundColor: bars.map(
              (b) =>
                b.colour ?? (limit !== undefined && b.value > limit ? colourNow('watch') : colourNow('ink')),
            ),
            barThickness: 11,
          },
        ],
      }}
      options={{
        indexAxis: 'y',
        animation: false,
        maintainAspectRatio: false,
        layout: { padding: { right: 64 } },
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
        scales: {
          x: { min: 0, max, display: false },
          y: {
            grid: { display: false },
            border: { display: false },
            ticks: { color: colourNow('ink'), crossAlign: 'far' },
          },
        },
      }}
      plugins={[values]}
    />
  );
}
