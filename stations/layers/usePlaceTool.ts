import { useMemo, useRef } from 'react';
import { findLayer } from '@/core/layers/layer';
import { type Place, placedCorners, type Point } from '@/core/layers/place';
import { longEdgeOf, pictureGrid } from '@/core/recipe/pictureGrid';
import { setPlace } from '@/store/edits/layers';
import { type Tool, type ToolPoint } from '@/ui/table/tool';
import { useActions, useBench } from '../benchContext';
import { sizeOfLayer } from './PlaceSection';
import { snapped } from './snapped';

/** how near an edge must come to another to be held by it, screen pixels */
const SNAP = 7;

/** Moves the chosen layer, or one of its corners, with the pointer, as one step of the history; only while its tool is in hand. */
export function usePlaceTool(): Tool | undefined {
  const actions = useActions();
  const { tool, layer, project, zoom } = useBench(({ tool: inHand, session, history }) => ({
    tool: inHand,
    layer: findLayer(history.project.layers, session.layer),
    project: history.project,
    zoom: session.viewport?.zoom ?? 0.5,
  }));
  const from = useRef<{
    readonly point: ToolPoint;
    readonly place: Place;
    readonly corner: number;
    readonly gesture: string;
  }>(undefined);
  return useMemo<Tool | undefined>(() => {
    const longEdge = longEdgeOf(project);
    const grid = pictureGrid(project);
    const own = layer && sizeOfLayer(project, layer);
    if ((tool !== 'place' && tool !== 'corners') || !layer?.place || !own || !grid || longEdge === 0)
      return undefined;
    const { id, name, place: now } = layer;
    return {
      onStart: (point) => {
        const corners = placedCorners(now, own, grid);
        const distances = corners.map(([x, y]) => Math.hypot(x - point.x, y - point.y));
        from.current = {
          point,
          place: now,
          corner: distances.indexOf(Math.min(...distances)),
          gesture: `${tool} ${id} ${performance.now()}`,
        };
      },
      onMove: (points) => {
        if (!from.current) return;
        const { point, place, corner, gesture } = from.current;
        const last = points[points.length - 1];
        const by: Point = [(last.x - point.x) / longEdge, (last.y - point.y) / longEdge];
        if (tool === 'place') {
          const moved = snapped(
            project,
            layer,
            { ...place, x: place.x + by[0], y: place.y + by[1] },
            SNAP / zoom,
          );
          return actions.edit(`Moved ${name}`, setPlace(id, { x: moved.x, y: moved.y }), gesture);
        }
        const corners = (place.corners ?? NOT_PULLED).map((c, i): Point =>
          i === corner ? [c[0] + by[0], c[1] + by[1]] : c,
        );
        actions.edit(
          `Pulled a corner of ${name}`,
          setPlace(id, { corners: corners as unknown as Place['corners'] }),
          gesture,
        );
      },
      onEnd: () => {
        from.current = undefined;
      },
    };
  }, [actions, layer, project, tool, zoom]);
}

const NOT_PULLED: readonly Point[] = [
  [0, 0],
  [0, 0],
  [0, 0],
  [0, 0],
];
