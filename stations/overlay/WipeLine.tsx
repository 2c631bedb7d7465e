'use client';
import { useRef } from 'react';
import { styled } from 'styled-components';
import { type Size, toPicture, toTable, type Viewport } from '@/ui/table/viewport';

const Line = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  cursor: ew-resize;
  touch-action: none;
  &::before {
    content: '';
    position: absolute;
    left: 11px;
    top: 0;
    bottom: 0;
    width: 2px;
    background: #fff;
    box-shadow: 0 0 0 1px rgba(0, 0, 0, 0.5);
  }
  &:focus-visible::before {
    width: 4px;
    left: 10px;
  }
`;

const Name = styled.span`
  position: absolute;
  top: 10px;
  padding: 1px 7px;
  background: rgba(27, 27, 26, 0.8);
  color: #f2f2f0;
  white-space: nowrap;
  pointer-events: none;
`;

export interface WipeLineProps {
  readonly at: number;
  readonly onMove: (at: number) => void;
  readonly left: string;
  readonly right: string;
  readonly viewport: Viewport;
  readonly table: Size;
  readonly picture: Size;
}

/** The movable line between two views; arrow keys move it too. */
export function WipeLine({ at, onMove, left, right, viewport, table, picture }: WipeLineProps) {
  const held = useRef(false);
  const [x] = toTable(viewport, table, at, 0);
  const clamp = (v: number): number => Math.min(picture.width, Math.max(0, v));
  return (
    <Line
      role="slider"
      tabIndex={0}
      aria-label="Wipe line"
      aria-valuemin={0}
      aria-valuemax={picture.width}
      aria-valuenow={Math.round(at)}
      style={{ left: x }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
      }}
      onPointerMove={(event) => {
        if (!held.current) return;
        event.stopPropagation();
        const box = event.currentTarget.parentElement?.getBoundingClientRect();
        if (box) onMove(clamp(toPicture(viewport, table, event.clientX - box.left, 0)[0]));
      }}
      onPointerUp={() => (held.current = false)}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(clamp(at + (by * 20) / viewport.zoom));
      }}
    >
      <Name style={{ right: 20 }}>{left}</Name>
      <Name style={{ left: 20 }}>{right}</Name>
    </Line>
  );
}
