'use client';
import { type ReactNode } from 'react';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { type Frame } from '@/core/recipe/project';
import { Thumbnail } from '@/ui/Thumbnail';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';
import { useActions, useBench, useFrames, useProject, useScope } from '../benchContext';
import { axisOf } from './axisOf';
import { isSetBarShown, SetBar } from './SetBar';
import { Detail } from './TrayAction';

const Strip = styled.div`
  height: 100%;
  display: flex;
  flex-direction: column;
  padding: 7px 14px 0;
  min-width: 0;
  container: frames / inline-size;
`;

const Top = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  margin-bottom: 3px;
  > :last-child:not(h2) {
    flex: none;
    margin: -4px 0 -3px;
  }
`;

const Heading = styled.h2`
  font-size: 13px;
  font-weight: 600;
  line-height: 1.15;
  min-width: 0;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
  span {
    font-weight: 400;
    color: ${COLOUR.quiet};
  }
`;

const Cards = styled.ul`
  display: flex;
  gap: 10px;
  overflow-x: auto;
  padding: 3px;
`;

const Card = styled(Button)`
  display: flex;
  flex-direction: column;
  width: 116px;
  flex: none;
  padding: 0 0 3px;
  border: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  canvas {
    width: 100%;
    height: 56px;
    object-fit: cover;
    display: block;
    background: ${COLOUR.table};
  }
  &[data-hovered] {
    border-color: ${COLOUR.control};
  }
  &[aria-pressed='true'] {
    box-shadow: 0 0 0 2px ${COLOUR.act};
    border-color: ${COLOUR.act};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: 4px;
  }
  &[data-out] canvas {
    opacity: 0.35;
  }
  small {
    padding: 2px 6px 0;
    font-size: 11px;
    line-height: 1.35;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

const Reference = styled.span`
  color: ${COLOUR.act};
  font-weight: 600;
`;

const Axis = styled.svg`
  flex: none;
  width: 100%;
  height: 34px;
  overflow: visible;
  font: 11px ${FONT.number};
`;

const CARD = 126;

export interface FrameTrayProps {
  readonly title: string;
  /** what is said of the whole set */
  readonly note: string;
  /** the second line of a card */
  readonly caption: (frame: Frame) => ReactNode;
  readonly isOut?: (frame: Frame) => boolean;
  /** what stands here while there are no frames */
  readonly waiting?: ReactNode;
  /** stands at the right of the heading */
  readonly actions?: ReactNode;
}

/** The frames in their order over the axis that fits their kind; each card is tied to where its frame really lies on it. */
export function FrameTray({ title, note, caption, isOut, waiting, actions: more }: FrameTrayProps) {
  const frames = useFrames();
  const { decoded, chosen } = useBench((s) => ({ decoded: s.decoded, chosen: s.session.frame }));
  const scope = useScope();
  const actions = useActions();
  const hasSets = isSetBarShown(useProject());
  const zero = frames.find((f) => f.isReference)?.frame.stops ?? 0;
  if (frames.length === 0 || !scope)
    return (
      <Strip>
        <Heading>{title}</Heading>
        <SetBar />
        {waiting}
      </Strip>
    );
  const axis = axisOf(
    scope,
    frames.map((f) => f.frame),
    zero,
  );
  const places = [...axis.values, ...axis.ticks.map((t) => t.at)];
  const low = Math.min(...places);
  const span = Math.max(1e-9, Math.max(...places) - low);
  const width = Math.max(1, frames.length) * CARD;
  const inset = CARD / 2;
  const along = (s: number): number => inset + ((s - low) / span) * (width - CARD);
  return (
    <Strip>
      <Top data-crowded={hasSets && more ? '' : undefined}>
        <Heading>
          {title} by {axis.name} <Detail>· {note}</Detail>
        </Heading>
        <SetBar />
        {more}
      </Top>
      <div style={{ overflowX: 'auto', overflowY: 'hidden', flex: 1 }}>
        <div style={{ width }}>
          <Cards aria-label={title} style={{ overflow: 'visible' }}>
            {frames.map(({ frame, name, isReference }) => {
              const levels = decoded[frame.hash]?.levels;
              return (
                <li key={frame.id}>
                  <Card
                    aria-label={`${name}, ${frame.file}`}
                    aria-pressed={frame.id === chosen}
                    data-out={!frame.used || isOut?.(frame) ? '' : undefined}
                    onPress={() => actions.go({ frame: frame.id })}
                  >
                    {levels ? (
                      <Thumbnail image={levels[levels.length - 1]} label={name} />
                    ) : (
                      <canvas width={3} height={2} />
                    )}
                    <small>
                      {name.replace('Frame ', '')} {isReference && <Reference>reference</Reference>}
                      {!frame.used && 'not used'}
                    </small>
                    <small>{caption(frame)}</small>
                  </Card>
                </li>
              );
            })}
          </Cards>
          <Axis role="img" aria-label={`Along the ${axis.name}: ${axis.values.map(axis.say).join(', ')}`}>
            <line x1={inset} x2={width - inset} y1="14" y2="14" stroke={COLOUR.ink} />
            {axis.ticks.map(({ at, text }) => (
              <g key={at}>
                <line x1={along(at)} x2={along(at)} y1={14} y2={18} stroke={COLOUR.ink} />
                <text x={along(at)} y="31" textAnchor="middle" fill={COLOUR.quiet}>
                  {text}
                </text>
              </g>
            ))}
            {axis.values.map((s, i) => (
              <g key={frames[i].frame.id}>
                <line x1={i * CARD + inset} y1="1" x2={along(s)} y2="14" stroke={COLOUR.control} />
                <circle cx={along(s)} cy="14" r="3.5" fill={COLOUR.ink} />
              </g>
            ))}
          </Axis>
        </div>
      </div>
    </Strip>
  );
}
