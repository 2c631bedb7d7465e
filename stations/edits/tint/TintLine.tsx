'use client';
import { type KeyboardEvent, type PointerEvent, useId, useRef } from 'react';
import { strengthText } from '@/core/edits/tint/tint';
import { tintLine, type TintPoint } from '@/core/edits/tint/tintLine';
import { formatStops } from '@/ui/formatFinding';
import { oklabInk } from '@/ui/ink';
import { COLOUR } from '@/ui/tokens';
import { useHeld } from '@/ui/useHeld';
import { Ladder, LADDER_WIDTH as WIDTH } from '../ladder';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.tint;

const HEIGHT = 76;
const FIRST = -8;
const LAST = 3;
const TOP = 20;
const BOTTOM = 42;
/** stops of the gradient that the line is drawn by */
const STEPS = 44;

const xOf = (stops: number): number => Math.max(0, Math.min(1, (stops - FIRST) / (LAST - FIRST))) * WIDTH;

export const pointName = ({ at }: TintPoint): string => TEXT.point(formatStops(at));

export interface TintLineProps {
  readonly points: readonly TintPoint[];
  readonly chosen: number;
  readonly onChoose: (index: number) => void;
  readonly onMove: (index: number, tone: number, gesture: string) => void;
}

/** A grey line from darks to lights, as the tint makes it; its points lie under it and are moved along tone. */
export function TintLine({ points, chosen, onChoose, onMove }: TintLineProps) {
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ index: number; gesture: string }>(undefined);
  const gradient = useId();
  const [shown, hold] = useHeld(points);
  const line = tintLine(shown);
  const move = (index: number, tone: number, gesture: string): void => {
    const at = Math.max(FIRST, Math.min(LAST, Math.round(10 * tone) / 10));
    hold(shown.map((p, i) => (i === index ? { ...p, at } : p)));
    onMove(index, at, gesture);
  };
  const onDown = (index: number, event: PointerEvent<SVGGElement>): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    onChoose(index);
    held.current = { index, gesture: `tone ${event.timeStamp}` };
  };
  const onPointerMove = (event: PointerEvent): void => {
    const from = held.current;
    const box = svg.current?.getBoundingClientRect();
    if (!from || !box) return;
    move(from.index, FIRST + ((event.clientX - box.left) / box.width) * (LAST - FIRST), from.gesture);
  };
  const onKey = (index: number, event: KeyboardEvent): void => {
    const step = { ArrowRight: 0.1, ArrowUp: 0.1, ArrowLeft: -0.1, ArrowDown: -0.1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    move(index, shown[index].at + step * (event.shiftKey ? 5 : 1), 'tone by keys');
  };
  return (
    <Ladder ref={svg} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="group" aria-label={TEXT.label}>
      <linearGradient id={gradient}>
        {Array.from({ length: STEPS + 1 }, (_, k) => {
          const stops = FIRST + (k / STEPS) * (LAST - FIRST);
          const [a, b] = line(stops);
          return <stop key={k} offset={k / STEPS} stopColor={oklabInk(Math.cbrt(0.18 * 2 ** stops), a, b)} />;
        })}
      </linearGradient>
      <rect x="0" y={TOP} width={WIDTH} height={BOTTOM - TOP} fill={`url(#${gradient})`} />
      {shown.map((point, i) => {
        const x = xOf(point.at);
        const ink = i === chosen ? COLOUR.act : COLOUR.ink;
        return (
          <g
            key={i}
            role="slider"
            tabIndex={0}
            aria-label={`${pointName(point)}, ${Math.round(point.hue)}° ${strengthText(point.strength)}`}
            aria-valuemin={FIRST}
            aria-valuemax={LAST}
            aria-valuenow={point.at}
            aria-valuetext={formatStops(point.at)}
            onFocus={() => onChoose(i)}
            onPointerDown={(event) => onDown(i, event)}
            onPointerMove={onPointerMove}
            onPointerUp={() => (held.current = undefined)}
            onPointerCancel={() => (held.current = undefined)}
            onKeyDown={(event) => onKey(i, event)}
          >
            <path
              data-knob
              d={`M${x} ${BOTTOM + 3}l6 11h-12z`}
              fill={i === chosen ? ink : COLOUR.raised}
              stroke={ink}
              strokeWidth="1.5"
            />
            <rect x={x - 14} y={TOP} width="28" height={HEIGHT - TOP} fill="transparent" />
            {point.strength > 0 && (
              <text x={Math.max(24, Math.min(WIDTH - 24, x))} y={TOP - 6} textAnchor="middle">
                {`${Math.round(point.hue)}° ${strengthText(point.strength)}`}
              </text>
            )}
            <text x={Math.max(16, Math.min(WIDTH - 16, x))} y={HEIGHT - 4} textAnchor="middle">
              {formatStops(point.at).replace(' EV', '')}
            </text>
          </g>
        );
      })}
    </Ladder>
  );
}
