'use client';
import { type KeyboardEvent, type PointerEvent, useMemo, useRef } from 'react';
import { styled } from 'styled-components';
import { ratioValue } from '@/core/finish/cropRatio';
import { cropInForce } from '@/store/cropInForce';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { type Rectangle } from '@/core/raster/raster';
import { setGeometry } from '@/store/edits/geometry';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { useActions, useBench } from '../benchContext';
import { OverlaySvg } from '../overlay/PlaceMark';
import { type Handle, resizeCrop } from './resizeCrop';

const Grip = styled.button`
  position: absolute;
  width: 26px;
  height: 26px;
  margin: -13px 0 0 -13px;
  padding: 0;
  border: 0;
  background: none;
  touch-action: none;
  &::before {
    content: '';
    position: absolute;
    inset: 8px;
    background: #fff;
    border: 1px solid #1b1b1a;
  }
  &:focus-visible {
    outline: 2px solid #fff;
    outline-offset: -4px;
  }
`;

const HANDLES: readonly (Handle & { readonly name: string; readonly cursor: string })[] = [
  { x: -1, y: -1, name: 'Top left corner', cursor: 'nwse-resize' },
  { x: 0, y: -1, name: 'Top edge', cursor: 'ns-resize' },
  { x: 1, y: -1, name: 'Top right corner', cursor: 'nesw-resize' },
  { x: 1, y: 0, name: 'Right edge', cursor: 'ew-resize' },
  { x: 1, y: 1, name: 'Bottom right corner', cursor: 'nwse-resize' },
  { x: 0, y: 1, name: 'Bottom edge', cursor: 'ns-resize' },
  { x: -1, y: 1, name: 'Bottom left corner', cursor: 'nesw-resize' },
  { x: -1, y: 0, name: 'Left edge', cursor: 'ew-resize' },
  { x: 0, y: 0, name: 'Whole crop', cursor: 'move' },
];

/** The crop with grips: drag, or arrow keys in steps of one pixel (ten with shift). */
export function FinishOverlay({ viewport, table }: { viewport: Viewport; table: Size }) {
  const project = useBench((s) => s.history.project);
  const actions = useActions();
  const held = useRef<{ crop: Rectangle; x: number; y: number; gesture: string }>(undefined);
  const crop = useMemo(() => cropInForce(project), [project]);
  const reference = pictureGrid(project);
  if (!crop || !reference) return null;
  const ratio = ratioValue(project.geometry);
  const [left, top] = toTable(viewport, table, crop.x, crop.y);
  const [right, bottom] = toTable(viewport, table, crop.x + crop.width, crop.y + crop.height);
  const pull = (from: Rectangle, handle: Handle, dx: number, dy: number, gesture?: string): void =>
    actions.edit('Crop', setGeometry({ crop: resizeCrop(from, handle, dx, dy, reference, ratio) }), gesture);
  const onDown = (event: PointerEvent<HTMLButtonElement>): void => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { crop, x: event.clientX, y: event.clientY, gesture: `crop ${event.timeStamp}` };
  };
  const onMove = (handle: Handle, event: PointerEvent): void => {
    const from = held.current;
    if (!from) return;
    event.stopPropagation();
    pull(
      from.crop,
      handle,
      (event.clientX - from.x) / viewport.zoom,
      (event.clientY - from.y) / viewport.zoom,
      from.gesture,
    );
  };
  const onKey = (handle: Handle, event: KeyboardEvent): void => {
    const step = event.shiftKey ? 10 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[
      event.key
    ];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    pull(crop, handle, by[0], by[1]);
  };
  return (
    <>
      <OverlaySvg aria-hidden fill="none">
        <rect
          x={left}
          y={top}
          width={right - left}
          height={bottom - top}
          stroke="#1b1b1a"
          strokeOpacity="0.7"
          strokeWidth="3"
        />
        <rect x={left} y={top} width={right - left} height={bottom - top} stroke="#fff" strokeWidth="1.2" />
      </OverlaySvg>
      {HANDLES.map((h) => (
        <Grip
          key={h.name}
          aria-label={`${h.name} of the crop`}
          style={{
            left: left + ((h.x + 1) / 2) * (right - left),
            top: top + ((h.y + 1) / 2) * (bottom - top),
            cursor: h.cursor,
          }}
          onPointerDown={onDown}
          onPointerMove={(event) => onMove(h, event)}
          onPointerUp={() => (held.current = undefined)}
          onPointerCancel={() => (held.current = undefined)}
          onKeyDown={(event) => onKey(h, event)}
        />
      ))}
    </>
  );
}
