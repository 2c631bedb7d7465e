'use client';
import { type ChartCorners, chartPlaces } from '@/core/match/chart/chartColours';
import { MOST_DIFFERENCE } from '@/core/view/renderView';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { useBench } from '../benchContext';
import { useOpenEdit } from '../edits/useOpenEdit';
import { MarkText } from '../overlay/MarkText';
import { useOpenMatch } from '../edits/match/useOpenMatch';
import { Legend } from '../overlay/Legend';
import { OverlaySvg, PlaceMark } from '../overlay/PlaceMark';
import { MATCH_TEXT as TEXT } from './text';

const AROUND = 14;

/** A cross with a number. */
function NumberMark({ number, at: [x, y] }: { number: number; at: readonly [number, number] }) {
  const d = `M${x - 7} ${y}H${x + 7}M${x} ${y - 7}V${y + 7}`;
  return (
    <g fill="none">
      <path d={d} stroke="#000" strokeOpacity="0.7" strokeWidth="3.6" />
      <path d={d} stroke="#fff" strokeWidth="1.5" />
      <MarkText x={x + 6} y={y - 6}>
        {number}
      </MarkText>
    </g>
  );
}

/** The field of a chart with its patches; its first corner, beside dark skin, is filled. */
function ChartMarks({
  corners,
  viewport,
  table,
}: {
  readonly corners: ChartCorners;
  readonly viewport: Viewport;
  readonly table: Size;
}) {
  const at = ([x, y]: readonly [number, number]) => toTable(viewport, table, x, y);
  const d = `M${corners.map((c) => at(c).join(' ')).join('L')}z`;
  return (
    <OverlaySvg aria-hidden fill="none">
      <path d={d} stroke="#000" strokeOpacity="0.6" strokeWidth="3.6" />
      <path d={d} stroke="#fff" strokeWidth="1.5" />
      {chartPlaces(corners).map((place, i) => {
        const [x, y] = at(place);
        return <circle key={i} cx={x} cy={y} r="2.5" fill="#fff" stroke="#000" strokeOpacity="0.7" />;
      })}
      {corners.map((corner, i) => {
        const [x, y] = at(corner);
        return (
          <circle
            key={i}
            cx={x}
            cy={y}
            r="6"
            fill={i === 0 ? '#fff' : 'none'}
            stroke="#000"
            strokeWidth="3.6"
          />
        );
      })}
      {corners.map((corner, i) => {
        const [x, y] = at(corner);
        return <circle key={i} cx={x} cy={y} r="6" stroke="#fff" strokeWidth="1.5" />;
      })}
    </OverlaySvg>
  );
}

/** Where the neutral patch was taken, where a chart lies, and what was marked for a match. */
export function MatchOverlay({ viewport, table }: { viewport: Viewport; table: Size }) {
  const edit = useOpenEdit();
  const matched = useOpenMatch()?.onGrid;
  const { look, frame } = useBench((s) => ({ look: s.session.look, frame: s.session.frame }));
  if (look === 'difference')
    return (
      <Legend>
        <span>
          0 <i /> {MOST_DIFFERENCE} ΔE2000
        </span>
        <span>{matched === undefined ? TEXT.apart.before : TEXT.apart.reference}</span>
      </Legend>
    );
  if (edit?.kind === 'chart')
    return look === 'shot' && frame === edit.settings.frame && edit.settings.corners.length === 4 ? (
      <ChartMarks corners={edit.settings.corners} viewport={viewport} table={table} />
    ) : null;
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
