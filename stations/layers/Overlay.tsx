'use client';
import { type PicturePoint } from '@/ui/table/tool';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { type Followed, useFollowed } from '@/ui/useFollowed';
import { brushSide } from '@/store/brushSide';
import { useBench } from '../benchContext';
import { OverlaySvg } from '../overlay/PlaceMark';
import { useIdleStroke } from './useIdleStroke';

export interface LayersOverlayProps {
  readonly viewport: Viewport;
  readonly table: Size;
  /** where the pointer is on the picture */
  readonly pointer: Followed<PicturePoint | undefined>;
  readonly longEdge: number;
}

/** The brush: its rim, where it is at half strength, and a cross for reveal or a bar for hide; crossed out where it changes nothing. */
export function LayersOverlay({ viewport, table, pointer, longEdge }: LayersOverlayProps) {
  useIdleStroke();
  const { brush, side, idle } = useBench((s) => ({
    brush: s.session.brush,
    side: brushSide(s),
    idle: s.idle !== undefined && s.idle.layer === s.session.layer,
  }));
  const at = useFollowed(pointer, (now) => now);
  if (!at) return null;
  const [x, y] = toTable(viewport, table, at.x, at.y);
  const r = (brush.size * longEdge * viewport.zoom) / 2;
  const half = r * (1 - brush.softness / 2);
  // what changes nothing is crossed out
  const d = r * Math.SQRT1_2;
  const sign = idle
    ? `M${x - d} ${y - d}L${x + d} ${y + d}M${x + d} ${y - d}L${x - d} ${y + d}`
    : side === 'reveal'
      ? `M${x - 4} ${y}H${x + 4}M${x} ${y - 4}V${y + 4}`
      : `M${x - 4} ${y}H${x + 4}`;
  return (
    <OverlaySvg aria-hidden fill="none">
      <circle cx={x} cy={y} r={r} stroke="#000" strokeOpacity="0.55" strokeWidth="2.6" />
      <circle cx={x} cy={y} r={r} stroke="#fff" strokeWidth="1.2" />
      <circle cx={x} cy={y} r={half} stroke="#fff" strokeOpacity="0.65" strokeWidth="0.8" />
      <path d={sign} stroke="#000" strokeOpacity="0.6" strokeWidth="3" />
      <path d={sign} stroke="#fff" strokeWidth="1.3" />
    </OverlaySvg>
  );
}
