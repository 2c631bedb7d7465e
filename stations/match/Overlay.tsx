'use client';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { useBench } from '../benchContext';
import { useOpenEdit } from '../edits/useOpenEdit';
import { MarkNumber } from '../overlay/MarkNumber';
import { OverlaySvg, PlaceMark } from '../overlay/PlaceMark';

const AROUND = 14;

/** A cross with a number. */
function NumberMark({ number, at: [x, y] }: { number: number; at: readonly [number, number] }) {
  const d = `M${x - 7} ${y}H${x + 7}M${x} ${y - 7}V${y + 7}`;
  return (
    <g fill="none">
      <path d={d} stroke="#000" strokeOpacity="0.7" strokeWidth="3.6" />
      <path d={d} stroke="#fff" strokeWidth="1.5" />
      <MarkNumber x={x + 6} y={y - 6} number={number} />
    </g>
  );
}

/** Where the neutral patch was taken, and what was marked for a match. */
export function MatchOverlay({ viewport, table }: { viewport: Viewport; table: Size }) {
  const edit = useOpenEdit();
  const look = useBench((s) => s.session.look);
  if (edit?.kind === 'match' && look !== 'shot')
    return (
      <OverlaySvg aria-hidden>
        {(edit.settings.marks ?? []).map(({ x, y }, i) => (
          <NumberMark key={i} number={i + 1} at={toTable(viewport, table, x, y)} />
        ))}
      </OverlaySvg>
    );
  if (edit?.kind !== 'neutral') return null;
  const { x, y } = edit.settings;
  const place = { x: x - AROUND, y: y - AROUND, width: 2 * AROUND, height: 2 * AROUND };
  return (
    <OverlaySvg aria-hidden>
      <PlaceMark place={place} viewport={viewport} table={table} />
    </OverlaySvg>
  );
}
