import { useMemo, useState } from 'react';
import { setGrid } from '@/core/recipe/pictureGrid';
import { MOST_FRAME_DAB_POINTS, MOST_FRAME_DABS, type FrameDab } from '@/core/merge/seams/frameDab';
import { setFrameDabs } from '@/store/edits/sets';
import { activeScope } from '@/store/activeSet';
import { type Tool, type ToolPoint } from '@/ui/table/tool';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { frameInHand } from './frameInHand';
import { SEAM_TEXT as TEXT } from './text';

/** width of a dab: pixels of the screen, and the most of the picture's long edge */
const DAB_WIDTH = 9;
const WIDEST = 0.012;

/** Points at what a frame is to make, as a tool of the table: each dab is one step of the history. */
export function useFrameDabTool(): { tool: Tool | undefined; drawn: FrameDab | undefined } {
  const { bench } = useBenchParts();
  const actions = useActions();
  const [drawn, setDrawn] = useState<FrameDab>();
  const frame = useBench((s) => (s.session.station === 'merge' ? frameInHand(s.tool) : undefined));
  const tool = useMemo<Tool | undefined>(() => {
    if (frame === undefined) return undefined;
    let points: FrameDab['points'] = [];
    let size = 0;
    const draw = (more: readonly ToolPoint[]): void => {
      const state = bench.store.getState();
      const scope = activeScope(state);
      const grid = scope && setGrid(scope);
      if (!grid) return;
      const long = Math.max(grid.width, grid.height);
      const zoom = state.session.viewport?.zoom;
      size = zoom === undefined ? WIDEST : Math.min(WIDEST, DAB_WIDTH / zoom / long);
      points = [
        ...points,
        ...more.map(({ x, y }) => {
          // what is drawn beside the picture counts at its border
          const [px, py] = [Math.min(grid.width, Math.max(0, x)), Math.min(grid.height, Math.max(0, y))];
          return [px / long, py / long] as const;
        }),
      ];
      points = points.slice(0, MOST_FRAME_DAB_POINTS);
      setDrawn({ frame, size, points });
    };
    return {
      onStart: (point) => {
        points = [];
        draw([point]);
      },
      onMove: draw,
      onEnd: () => {
        setDrawn(undefined);
        const set = activeScope(bench.store.getState())?.set;
        if (!set || points.length === 0) return;
        const dabs = set.dabs ?? [];
        if (dabs.length >= MOST_FRAME_DABS) return actions.report(TEXT.tooMany);
        actions.edit(TEXT.pointed, setFrameDabs(set.id, [...dabs, { frame, size, points }]));
        // what became of it is seen in the picture
        actions.go({ look: 'result' });
      },
      onCancel: () => setDrawn(undefined),
    };
  }, [actions, bench, frame]);
  return { tool, drawn };
}
