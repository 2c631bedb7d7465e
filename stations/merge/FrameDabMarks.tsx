'use client';
import { type FrameDab } from '@/core/merge/seams/frameDab';
import { setGrid } from '@/core/recipe/pictureGrid';
import { mergedFrames } from '@/core/recipe/setFrames';
import { FRAME_COLOURS } from '@/core/view/frameColours';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { useFrames, useScope } from '../benchContext';
import { MarkText } from '../overlay/MarkText';
import { OverlaySvg } from '../overlay/PlaceMark';
import { dabPath } from '../regions/DabMarks';

export interface FrameDabMarksProps {
  readonly viewport: Viewport;
  readonly table: Size;
  /** the dab that is being drawn */
  readonly drawn?: FrameDab | undefined;
}

/** What was pointed out in which frame: a line in the frame’s colour, with its number. */
export function FrameDabMarks({ viewport, table, drawn }: FrameDabMarksProps) {
  const scope = useScope();
  const frames = useFrames();
  const grid = scope && setGrid(scope);
  const dabs = [...(scope?.set.dabs ?? []), ...(drawn ? [drawn] : [])];
  if (!scope || !grid || dabs.length === 0) return null;
  const long = Math.max(grid.width, grid.height);
  const merged = mergedFrames(scope).map((m) => m.frame.id);
  return (
    <OverlaySvg aria-hidden fill="none" strokeLinecap="round" strokeLinejoin="round">
      {dabs.map(({ frame, points }, i) => {
        const placed = points.map(([x, y]) => toTable(viewport, table, x * long, y * long));
        const [[x, y]] = placed;
        const colour = FRAME_COLOURS[Math.max(0, merged.indexOf(frame)) % FRAME_COLOURS.length];
        return (
          <g key={i}>
            <path d={dabPath(placed)} stroke="#000" strokeOpacity="0.7" strokeWidth="11" />
            <path d={dabPath(placed)} stroke="#fff" strokeWidth="8.6" />
            <path d={dabPath(placed)} stroke={`rgb(${colour.join(' ')})`} strokeWidth="5.4" />
            <MarkText x={x + 9} y={y - 7}>
              {frames.findIndex((f) => f.frame.id === frame) + 1}
            </MarkText>
          </g>
        );
      })}
    </OverlaySvg>
  );
}
