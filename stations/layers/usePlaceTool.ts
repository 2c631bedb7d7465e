import { useMemo, useRef } from 'react';
import { type PlatePlace } from '@/core/layers/platePlace';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { setPlate } from '@/store/edits';
import { type Tool, type ToolPoint } from '@/ui/table/Table';
import { useActions, useBench } from '../benchContext';
import { plateOf } from './plateOf';

/** Moves the chosen cut-out with the pointer, as one step of the history; only while its tool is in hand. */
export function usePlaceTool(): Tool | undefined {
  const actions = useActions();
  const { inHand, frame, longEdge } = useBench(({ tool, session, history: { project } }) => {
    const layer = project.layers.find((l) => l.id === session.layer);
    return {
      inHand: tool === 'place',
      frame: layer && plateOf(project, layer),
      longEdge: longEdgeOf(project),
    };
  });
  const from = useRef<{ readonly point: ToolPoint; readonly place: PlatePlace; readonly gesture: string }>(
    undefined,
  );
  return useMemo<Tool | undefined>(() => {
    if (!inHand || !frame?.plate || longEdge === 0) return undefined;
    const { id, file, plate } = frame;
    return {
      onStart: (point) => {
        from.current = { point, place: plate, gesture: `place ${id} ${performance.now()}` };
      },
      onMove: (points) => {
        if (!from.current) return;
        const { point, place, gesture } = from.current;
        const last = points[points.length - 1];
        const moved = {
          x: place.x + (last.x - point.x) / longEdge,
          y: place.y + (last.y - point.y) / longEdge,
        };
        actions.edit(`Moved ${file}`, setPlate(id, moved), gesture);
      },
      onEnd: () => {
        from.current = undefined;
      },
    };
  }, [actions, frame, inHand, longEdge]);
}
