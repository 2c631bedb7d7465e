'use client';
import { adjustOf } from '@/store/edits';
import { type Size, type Viewport } from '@/ui/table/viewport';
import { useBench } from '../benchContext';
import { OverlaySvg, PlaceMark } from '../overlay/PlaceMark';

const AROUND = 14;

/** Where the neutral patch was taken. */
export function MatchOverlay({ viewport, table }: { viewport: Viewport; table: Size }) {
  const { project, target } = useBench((s) => ({ project: s.history.project, target: s.session.target }));
  const neutral = adjustOf(project, target)?.neutral;
  if (!neutral) return null;
  const place = { x: neutral.x - AROUND, y: neutral.y - AROUND, width: 2 * AROUND, height: 2 * AROUND };
  return (
    <OverlaySvg aria-hidden>
      <PlaceMark place={place} viewport={viewport} table={table} />
    </OverlaySvg>
  );
}
