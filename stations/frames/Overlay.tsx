'use client';
import { type Size, type Viewport } from '@/ui/table/viewport';
import { useBench, useFrames } from '../benchContext';
import { OverlaySvg, PlaceMark } from '../overlay/PlaceMark';

/** Marks the blocks where the chosen frame clips most. */
export function FramesOverlay({ viewport, table }: { viewport: Viewport; table: Size }) {
  const { chosen, look } = useBench((s) => ({ chosen: s.session.frame, look: s.session.look }));
  const frame = useFrames().find((f) => f.frame.id === chosen)?.frame;
  if (look !== 'clipping' || !frame) return null;
  const { lightAt, darkAt } = frame.clipped;
  return (
    <OverlaySvg aria-hidden>
      {[lightAt, darkAt].map(
        (place) =>
          place && (
            <PlaceMark key={`${place.x},${place.y}`} place={place} viewport={viewport} table={table} />
          ),
      )}
    </OverlaySvg>
  );
}
