'use client';
import { styled } from 'styled-components';
import { type Rectangle } from '@/core/raster/raster';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';

export const OverlaySvg = styled.svg`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
`;

/** Corner marks around a place of the picture. */
export function PlaceMark({ place, viewport, table }: { place: Rectangle; viewport: Viewport; table: Size }) {
  const [x, y] = toTable(viewport, table, place.x, place.y);
  const [r, b] = toTable(viewport, table, place.x + place.width, place.y + place.height);
  const c = Math.min(14, (r - x) / 3, (b - y) / 3);
  const d = `M${x} ${y + c}V${y}H${x + c}M${r - c} ${y}H${r}V${y + c}M${r} ${b - c}V${b}H${r - c}M${x + c} ${b}H${x}V${b - c}`;
  return (
    <g fill="none">
      <path d={d} stroke="#000" strokeOpacity="0.6" strokeWidth="3.5" />
      <path d={d} stroke="#fff" strokeWidth="1.6" />
    </g>
  );
}
