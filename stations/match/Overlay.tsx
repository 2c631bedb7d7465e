'use client';
import { type Size, type Viewport } from '@/ui/table/viewport';
import { useOpenEdit } from '../edits/useOpenEdit';
import { OverlaySvg, PlaceMark } from '../overlay/PlaceMark';

const AROUND = 14;

/** Where the neutral patch was taken. */
export function MatchOverlay({ viewport, table }: { viewport: Viewport; table: Size }) {
  const edit = useOpenEdit();
  if (edit?.kind !== 'neutral') return null;
  const { x, y } = edit.settings;
  const place = { x: x - AROUND, y: y - AROUND, width: 2 * AROUND, height: 2 * AROUND };
  return (
    <OverlaySvg aria-hidden>
      <PlaceMark place={place} viewport={viewport} table={table} />
    </OverlaySvg>
  );
}
