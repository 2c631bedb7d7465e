'use client';
import { multiply, translation } from '@/core/raster/matrix3';
import { bendOf, fitOf, panoramaOf } from '@/core/recipe/setFrames';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { useBench, useCompared, useScope } from '../benchContext';
import { Legend } from '../overlay/Legend';
import { OverlaySvg, PlaceMark } from '../overlay/PlaceMark';
import { bendArrows, BendMarks } from './BendMarks';
import { FIT_TEXT as TEXT } from './text';

/** How much longer the arrows are than what they measure, in picture pixels. */
const ARROWS = 200;

/** The part that the fit is held on, the measured displacement of each place as an arrow, and the scale of the residual's greys. */
export function FitOverlay({ viewport, table }: { viewport: Viewport; table: Size }) {
  const { look, gain } = useBench((s) => ({ look: s.session.look, gain: s.session.gain }));
  const scope = useScope();
  const compared = useCompared();
  const fit = scope && compared && fitOf(scope, compared);
  const region = scope?.set.region;
  const mark = region && (
    <OverlaySvg aria-hidden>
      <PlaceMark place={region} viewport={viewport} table={table} />
    </OverlaySvg>
  );
  const turned = scope !== undefined && panoramaOf(scope) !== undefined;
  if (look !== 'residual' || !(fit || turned)) return mark ?? null;
  const codes = 127 / gain;
  const bend = scope && compared && bendOf(scope, compared);
  const tiles = turned || bend ? [] : (fit?.tiles ?? []);
  return (
    <>
      {mark}
      <OverlaySvg aria-hidden>
        {bend && fit && (
          <BendMarks
            bend={bend}
            matrix={multiply(translation(bend.inside.x, bend.inside.y), fit.matrix)}
            viewport={viewport}
            table={table}
          />
        )}
        {tiles.map((t) => {
          const [x, y] = toTable(viewport, table, t.x + 0.5, t.y + 0.5);
          const [u, v] = toTable(viewport, table, t.x + 0.5 + ARROWS * t.dx, t.y + 0.5 + ARROWS * t.dy);
          const off = Math.hypot(t.dx, t.dy) > 0.3;
          return (
            <g key={`${t.x},${t.y}`}>
              <line x1={x} y1={y} x2={u} y2={v} stroke="#fff" strokeWidth="3" strokeOpacity="0.75" />
              <line x1={x} y1={y} x2={u} y2={v} stroke={off ? '#9a5200' : '#0d5566'} strokeWidth="1.6" />
              <circle
                cx={x}
                cy={y}
                r="2"
                fill={off ? '#9a5200' : '#0d5566'}
                stroke="#fff"
                strokeWidth="0.7"
              />
            </g>
          );
        })}
      </OverlaySvg>
      <Legend>
        <span>
          −{codes.toFixed(0)} <i /> +{codes.toFixed(0)} codes of 255
        </span>
        {bend ? (
          <>
            <span>
              arrows × {bendArrows(bend)}: {TEXT.bendArrows}
            </span>
            {bend.unsure.length > 0 && <span>{TEXT.unsureMark}</span>}
          </>
        ) : (
          !turned && <span>arrows × {ARROWS}</span>
        )}
        <span>hatched: not compared</span>
      </Legend>
    </>
  );
}
