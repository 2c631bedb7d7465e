'use client';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { type HueMove, moves, wholeTurn } from '@/core/edits/hues/hueMove';
import { COLOUR } from '@/ui/tokens';
import { hueInk } from '@/ui/ink';
import { useHeld } from '@/ui/useHeld';
import { Ladder, LADDER_WIDTH as WIDTH } from '../ladder';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.hues;

const HEIGHT = 140;
const TOP = 56;
const BOTTOM = 108;
const KNOB = 6;
/** most that a hue is turned by hand, degrees */
export const MOST_TURN = 60;
const LEAST_TURN = -MOST_TURN;

export interface HueLadderProps {
  readonly hues: readonly HueMove[];
  /** share of all colour in even steps of hue from 0° on */
  readonly shares: readonly number[] | undefined;
  readonly chosen: number;
  readonly onChoose: (index: number) => void;
  readonly onTurn: (index: number, turn: number, gesture: string) => void;
}

/** The hue that holds least, where the ring is cut open. */
function emptiest(shares: readonly number[] | undefined, hues: readonly HueMove[]): number {
  if (shares === undefined) return hues.length > 0 ? wholeTurn(hues[0].at - 30) : 0;
  const step = 360 / shares.length;
  const about = shares.map((_, i) =>
    [-2, -1, 0, 1, 2].reduce((sum, k) => sum + shares[(i + k + shares.length) % shares.length], 0),
  );
  return about.indexOf(Math.min(...about)) * step;
}

/**
 * Hues in on the upper rail, as much of each as there is; hues out on the lower one. A rung joins where a hue comes from and where it goes; its lower
 * end is moved. The ring of hues is cut open where there is least of it.
 */
export function HueLadder({ hues, shares, chosen, onChoose, onTurn }: HueLadderProps) {
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ index: number; x: number; turn: number; gesture: string }>(undefined);
  const [shown, hold] = useHeld(hues);
  const first = emptiest(shares, hues);
  const xOf = (hue: number): number => (wholeTurn(hue - first) / 360) * WIDTH;
  const turn = (index: number, by: number, gesture: string): void => {
    const clamped = Math.max(-MOST_TURN, Math.min(MOST_TURN, Math.round(by)));
    hold(shown.map((h, i) => (i === index ? { ...h, turn: clamped } : h)));
    onTurn(index, clamped, gesture);
  };
  const onDown = (index: number, event: PointerEvent<SVGGElement>): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    onChoose(index);
    held.current = {
      ...{ index, x: event.clientX, turn: shown[index].turn },
      gesture: `turn ${event.timeStamp}`,
    };
  };
  const onMove = (event: PointerEvent): void => {
    const from = held.current;
    const box = svg.current?.getBoundingClientRect();
    if (!from || !box) return;
    turn(from.index, from.turn + ((event.clientX - from.x) / box.width) * 360, from.gesture);
  };
  const onKey = (index: number, event: KeyboardEvent): void => {
    const own = shown[index].turn;
    const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, Home: -own, Backspace: -own }[
      event.key
    ];
    if (step === undefined) return;
    event.preventDefault();
    turn(index, own + step * (event.shiftKey ? 5 : 1), `turn by keys`);
  };
  const step = 360 / (shares?.length ?? 72);
  const most = Math.max(0.01, ...(shares ?? []));
  const wide = (WIDTH * step) / 360;
  return (
    <Ladder ref={svg} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="group" aria-label={TEXT.label}>
      {shares?.map((share, i) => {
        // by the root, so that what there is little of is seen too
        const height = Math.sqrt(share / most) * (TOP - 6);
        return (
          <rect
            key={i}
            x={Math.min(WIDTH - wide, Math.max(0, xOf(i * step) - wide / 2))}
            y={TOP - height}
            width={wide}
            height={height}
            fill={hueInk(i * step)}
          />
        );
      })}
      {Array.from({ length: 72 }, (_, i) => (
        <rect
          key={i}
          x={(i / 72) * WIDTH}
          y={BOTTOM - 3}
          width={WIDTH / 72 + 0.3}
          height="6"
          fill={hueInk(first + 5 * i + 2.5)}
        />
      ))}
      <line x1="0" x2={WIDTH} y1={TOP} y2={TOP} stroke={COLOUR.ink} strokeWidth="1.2" />
      {shown.map((hue, i) => {
        const a = xOf(hue.at);
        const b = Math.max(0, Math.min(WIDTH, a + (hue.turn / 360) * WIDTH));
        const ink = i === chosen ? COLOUR.act : COLOUR.ink;
        return (
          <g
            key={hue.at}
            role="slider"
            tabIndex={0}
            aria-label={TEXT.hue(hue.at)}
            aria-valuemin={LEAST_TURN}
            aria-valuemax={MOST_TURN}
            aria-valuenow={hue.turn}
            aria-valuetext={`${TEXT.turn} ${hue.turn < 0 ? '−' : ''}${Math.abs(hue.turn)}°`}
            onFocus={() => onChoose(i)}
            onPointerDown={(event) => onDown(i, event)}
            onPointerMove={onMove}
            onPointerUp={() => (held.current = undefined)}
            onPointerCancel={() => (held.current = undefined)}
            onKeyDown={(event) => onKey(i, event)}
          >
            <path d={`M${a} ${TOP}L${b} ${BOTTOM}`} stroke={ink} strokeWidth="2" />
            <path d={`M${a - 4} ${TOP}h8`} stroke={COLOUR.ink} strokeWidth="2.5" />
            <circle
              cx={b}
              cy={BOTTOM}
              r={KNOB}
              fill={moves(hue) ? ink : COLOUR.raised}
              stroke={ink}
              strokeWidth={i === chosen ? 2.5 : 1.5}
            />
            <rect x={b - 14} y={BOTTOM - 16} width="28" height="32" fill="transparent" />
            <text x={Math.max(12, Math.min(WIDTH - 12, b))} y={BOTTOM + 22} textAnchor="middle">
              {Math.round(wholeTurn(hue.at + hue.turn))}°
            </text>
          </g>
        );
      })}
    </Ladder>
  );
}
