import { useMemo, useRef } from 'react';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { type Part } from '@/core/region/region';
import { type SameSettings } from '@/core/region/same/same';
import { type EllipseSettings } from '@/core/region/ellipse/ellipse';
import { regionOf, setPart } from '@/store/edits/regions';
import { type Tool, type ToolPoint } from '@/ui/table/tool';
import { useActions, useBench } from '../benchContext';
import { REGION_TEXT as TEXT } from './text';

/** a drag shorter than this draws nothing, fraction of the long edge */
const SHORTEST = 0.004;

/** Draws a part of a region on the picture: a gradient or an ellipse by a drag, an outline corner by corner, what is like a place by pressing it. Each is one step of the history. */
export function usePartTool(): Tool | undefined {
  const actions = useActions();
  const { tool, drawing, longEdge } = useBench((s) => ({
    tool: s.tool,
    drawing: s.drawing,
    longEdge: longEdgeOf(s.history.project),
  }));
  const part = useBench((s) =>
    s.drawing ? regionOf(s.history.project, s.drawing.owner)?.parts[s.drawing.part]?.part : undefined,
  );
  const from = useRef<{ readonly x: number; readonly y: number; readonly gesture: string }>(undefined);
  return useMemo<Tool | undefined>(() => {
    if (!drawing || !part || part.kind !== tool || longEdge === 0) return undefined;
    const put = (settings: object, gesture?: string): void =>
      actions.edit(
        `Drew: ${TEXT.kinds[part.kind].toLowerCase()}`,
        setPart(drawing.owner, drawing.part, { part: { kind: part.kind, settings } as Part }),
        gesture,
      );
    const at = ({ x, y }: ToolPoint): { x: number; y: number } => ({
      x: (x + 0.5) / longEdge,
      y: (y + 0.5) / longEdge,
    });
    return {
      onStart: (point) => {
        const { x, y } = at(point);
        from.current = { x, y, gesture: `${tool} ${performance.now()}` };
        if (part.kind === 'polygon') put({ corners: [...part.settings.corners, [x, y]] });
        if (part.kind === 'same') put(pressedAt(part.settings, x, y), from.current.gesture);
      },
      onMove: (points) => {
        const start = from.current;
        if (!start || part.kind === 'polygon') return;
        const { x, y } = at(points[points.length - 1]);
        if (part.kind === 'same') return put(pressedAt(part.settings, x, y), start.gesture);
        const [dx, dy] = [x - start.x, y - start.y];
        if (Math.hypot(dx, dy) < SHORTEST) return;
        put(
          part.kind === 'gradient'
            ? { ...part.settings, x0: start.x, y0: start.y, x1: x, y1: y }
            : ellipseOf(part.settings, start, dx, dy),
          start.gesture,
        );
      },
      onEnd: () => {
        from.current = undefined;
        if (part.kind !== 'polygon') actions.take(undefined);
      },
    };
  }, [actions, drawing, longEdge, part, tool]);
}

/** What is like a place; one beside the picture is that of its border. */
const pressedAt = (settings: SameSettings, x: number, y: number): SameSettings => ({
  ...settings,
  x: Math.min(1, Math.max(0, x)),
  y: Math.min(1, Math.max(0, y)),
});

/** An ellipse about where the hand went down, as wide and as high as it went. */
function ellipseOf(
  { turn, soft }: EllipseSettings,
  { x, y }: { readonly x: number; readonly y: number },
  dx: number,
  dy: number,
): EllipseSettings {
  return { x, y, across: Math.max(0.005, Math.abs(dx)), down: Math.max(0.005, Math.abs(dy)), turn, soft };
}
