'use client';
import { useMemo, useRef } from 'react';
import { strokeBox } from '@/core/mask/evaluateMask';
import { simplifyStroke } from '@/core/mask/simplifyStroke';
import { type Stroke, type StrokePoint } from '@/core/mask/stroke';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { type Project } from '@/core/recipe/project';
import { addStroke } from '@/store/edits';
import { type Tool, type ToolPoint } from '@/ui/table/Table';
import { useActions, useBench } from '../benchContext';

/** points after which a stroke takes no more: a hand that draws for minutes without lifting */
const MOST_POINTS = 10_000;
/** Samples closer together than this share of the brush add nothing. */
const LEAST_STEP = 0.04;

/** Whether the grid of the picture is known before it is merged: a panorama's only once its frames are turned. */
const isPlaced = ({ set, panorama }: Project): boolean => set.kind !== 'panorama' || panorama !== undefined;

/** The brush as a tool of the table: draws on the chosen layer's mask while the pointer is down, one step of the history a stroke. */
export function useBrush(): Tool | undefined {
  const actions = useActions();
  const { layer, longEdge, brush, ready } = useBench((s) => ({
    layer: s.history.project.layers.find((l) => l.id === s.session.layer && l.visible),
    longEdge: longEdgeOf(s.history.project),
    brush: s.session.brush,
    // what is painted while the merge is still being made is kept, once it is known where on the picture that is
    ready:
      (s.merged !== undefined || isPlaced(s.history.project)) &&
      (s.session.look === 'result' || s.session.look === 'mask'),
  }));
  const stroke = useRef<Stroke>(undefined);
  return useMemo<Tool | undefined>(() => {
    if (!layer || !ready || longEdge === 0) return undefined;
    const { id, name, mask } = layer;
    const toPoint = ({ x, y, pressure }: ToolPoint): StrokePoint => [x / longEdge, y / longEdge, pressure];
    const show = (next: Stroke, changed: readonly StrokePoint[]): void => {
      stroke.current = next;
      const box = strokeBox({ ...next, points: changed });
      // a feathered mask and one that follows edges change beyond the brush
      const beyond = 3 * mask.feather + 2 * mask.follow;
      const touched = {
        x: (box.x - beyond) * longEdge,
        y: (box.y - beyond) * longEdge,
        width: (box.width + 2 * beyond) * longEdge,
        height: (box.height + 2 * beyond) * longEdge,
      };
      actions.draw({ layer: id, stroke: next, touched });
    };
    return {
      onStart: (point) => {
        const points = [toPoint(point)];
        show({ ...brush, points }, points);
      },
      onMove: (samples) => {
        const before = stroke.current;
        if (!before || before.points.length >= MOST_POINTS) return;
        const points = [...before.points];
        for (const sample of samples) {
          const next = toPoint(sample);
          const last = points[points.length - 1];
          if (Math.hypot(next[0] - last[0], next[1] - last[1]) >= LEAST_STEP * brush.size) points.push(next);
        }
        if (points.length > before.points.length)
          show({ ...before, points }, points.slice(Math.max(0, before.points.length - 1)));
      },
      onEnd: () => {
        const drawn = stroke.current;
        stroke.current = undefined;
        if (drawn)
          actions.edit(
            `${drawn.action === 'reveal' ? 'Revealed in' : 'Hid in'} ${name}`,
            addStroke(id, simplifyStroke(drawn, longEdge)),
          );
        actions.draw(undefined);
      },
    };
  }, [actions, brush, layer, ready, longEdge]);
}
