'use client';
import { type Size, type Viewport } from '@/ui/table/viewport';
import { useBench } from '../benchContext';
import { OverlaySvg, PlaceMark } from '../overlay/PlaceMark';

/** The part that must print. */
export function ProofOverlay({ viewport, table }: { viewport: Viewport; table: Size }) {
  const region = useBench((s) => s.history.project.printRegion);
  if (!region) return null;
  return (
    <OverlaySvg aria-hidden>
      <PlaceMark place={region} viewport={viewport} table={table} />
    </OverlaySvg>
  );
}
