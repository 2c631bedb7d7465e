'use client';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { RUNGS, zoneCurve, type ZoneMove } from '@/core/edits/zones/zoneCurve';
import { type ToneShares } from '@/core/finish/toneShares';
import { formatStops } from '@/ui/formatFinding';
import { useHeld } from '@/ui/useHeld';
import { COLOUR } from '@/ui/tokens';
import { Ladder, LADDER_WIDTH as WIDTH } from '../ladder';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.zones;

const HEIGHT = 176;
const FIRST = -9;
const LAST = 3;
const TOP = 62;
const BOTTOM = 132;
const KNOB = 6;

const xOf = (stops: number): number => ((stops - FIRST) / (LAST - FIRST)) * WIDTH;

/** Bars of a histogram that stand on, or hang from, a line. */
function barsPath({ first, shares }: ToneShares, base: number, height: number): string {
  const top = Math.max(0.02, ...shares.slice(1, -1));
  return shares
    .map((share, i) => {
      const stops = first + i / 3;
      if (stops < FIRST || stops > LAST) return '';
      const h = Math.min(1, share / top) * height;
      return `M${xOf(stops - 1 / 6) + 0.5} ${base}v${-h}h${WIDTH / (LAST - FIRST) / 3 - 1}v${h}z`;
    })
    .join('');
}

export interface ZoneLadderProps {
  readonly zones: readonly ZoneMove[];
  /** tones that come in */
  readonly tones: ToneShares | undefined;
  readonly onChange: (zones: readonly ZoneMove[], name: string, gesture?: string) => void;
}

/** Every rung of the ladder, moved or not. */
export function allZones(zones: readonly ZoneMove[]): ZoneMove[] {
  const missing = RUNGS.filter((at) => !zones.some((z) => Math.abs(z.at - at) < 1e-6)).map((at) => ({
    at,
    by: 0,
  }));
  return [...zones, ...missing].sort((a, b) => a.at - b.at);
}

export function zoneName(at: number): string {
  const rung = RUNGS.findIndex((r) => Math.abs(r - at) < 1e-6);
  return rung >= 0 ? TEXT.rungs[rung] : `Zone ${formatStops(at)}`;
}

/**
 * The zone ladder: tones in on the upper rail with the histogram on it, tones out on the lower rail. A rung joins where a zone comes
 * from and where it goes; its lower end is moved.
 */
export function ZoneLadder({ zones, tones, onChange }: ZoneLadderProps) {
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ at: number; gesture: string }>(undefined);
  const [shown, hold] = useHeld(zones);
  const rungs = allZones(shown);
  const curve = zoneCurve(shown);
  const move = (at: number, by: number, gesture?: string): void => {
    const clamped = Math.max(-4, Math.min(4, Math.round(by * 20) / 20));
    const moved = rungs.map((z) => (z.at === at ? { at, by: clamped } : z));
    hold(moved);
    onChange(moved, zoneName(at), gesture);
  };
  const onDown = (at: number, event: PointerEvent<SVGGElement>): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { at, gesture: `zone ${at} ${event.timeStamp}` };
  };
  const onMove = (event: PointerEvent): void => {
    const from = held.current;
    const box = svg.current?.getBoundingClientRect();
    if (!from || !box) return;
    const stops = FIRST + ((event.clientX - box.left) / box.width) * (LAST - FIRST);
    move(from.at, stops - from.at, from.gesture);
  };
  const onKey = (zone: ZoneMove, event: KeyboardEvent): void => {
    const step = {
      ArrowRight: 0.1,
      ArrowUp: 0.1,
      ArrowLeft: -0.1,
      ArrowDown: -0.1,
      Home: -zone.by,
      Backspace: -zone.by,
    }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    move(zone.at, zone.by + step * (event.shiftKey ? 5 : 1), `zone ${zone.at} by keys`);
  };
  const ticks = Array.from({ length: LAST - FIRST + 1 }, (_, i) => FIRST + i);
  return (
    <Ladder ref={svg} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="group" aria-label={TEXT.label}>
      {tones && <path d={barsPath(tones, TOP, 50)} fill={COLOUR.control} fillOpacity="0.55" />}
      <line x1="0" x2={WIDTH} y1={TOP} y2={TOP} stroke={COLOUR.ink} strokeWidth="1.2" />
      <line x1="0" x2={WIDTH} y1={BOTTOM} y2={BOTTOM} stroke={COLOUR.ink} strokeWidth="1.2" />
      {ticks.map((s) => (
        <g key={s}>
          <line
            x1={xOf(s)}
            y1={TOP}
            x2={Math.max(0, Math.min(WIDTH, xOf(curve(s))))}
            y2={BOTTOM}
            stroke={COLOUR.line}
            strokeWidth="1"
          />
          {s % 3 === 0 && (
            <text
              x={xOf(s)}
              y={HEIGHT - 4}
              textAnchor={s === FIRST ? 'start' : s === LAST ? 'end' : 'middle'}
            >
              {s > 0 ? `+${s}` : s < 0 ? `−${-s}` : '0'}
            </text>
          )}
        </g>
      ))}
      {rungs.map((zone) => {
        const [a, b] = [xOf(zone.at), xOf(zone.at + zone.by)];
        const moved = zone.by !== 0;
        return (
          <g
            key={zone.at}
            role="slider"
            tabIndex={0}
            aria-label={zoneName(zone.at)}
            aria-valuemin={-4}
            aria-valuemax={4}
            aria-valuenow={zone.by}
            aria-valuetext={`${formatStops(zone.by)} at ${formatStops(zone.at)}`}
            onPointerDown={(event) => onDown(zone.at, event)}
            onPointerMove={onMove}
            onPointerUp={() => (held.current = undefined)}
            onPointerCancel={() => (held.current = undefined)}
            onKeyDown={(event) => onKey(zone, event)}
          >
            <path
              d={`M${a} ${TOP}L${b} ${BOTTOM}`}
              stroke={moved ? COLOUR.act : COLOUR.ink}
              strokeWidth="2"
            />
            <path d={`M${a - 4} ${TOP}h8`} stroke={COLOUR.ink} strokeWidth="2.5" />
            <circle
              cx={b}
              cy={BOTTOM}
              r={KNOB}
              fill={moved ? COLOUR.act : COLOUR.raised}
              stroke={COLOUR.ink}
              strokeWidth="1.5"
            />
            <rect x={b - 14} y={BOTTOM - 16} width="28" height="32" fill="transparent" />
            {moved && (
              <text x={Math.max(14, Math.min(WIDTH - 14, b))} y={BOTTOM + 21} textAnchor="middle">
                {formatStops(zone.by)}
              </text>
            )}
          </g>
        );
      })}
    </Ladder>
  );
}
