'use client';
import { useMemo, useRef } from 'react';
import { findLayer } from '@/core/layers/layer';
import { simplifyStroke } from '@/core/mask/simplifyStroke';
import { type Stroke, strokeBox, type StrokePoint } from '@/core/mask/stroke';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { baseScope, panoramaOf } from '@/core/recipe/project';
import { type BenchState } from '@/store/bench';
import { addStroke, regionOf, type RegionOwner } from '@/store/edits/regions';
import { type Tool, type ToolPoint } from '@/ui/table/Table';
import { useActions, useBench } from '../benchContext';

/** points after which a stroke takes no more: a hand that draws for minutes without lifting */
const MOST_POINTS = 10_000;
/** Samples closer together than this share of the brush add nothing. */
const LEAST_STEP = 0.04;

/** Whether the grid of the picture is known before it is merged: a panorama's only once its frames are turned. */
function isPlaced(state: BenchState): boolean {
  const scope = baseScope(state.history.project);
  if (!scope) return false;
  return scope.set.kind !== 'panorama' || panoramaOf(scope) !== undefined;
}

/** Whose region strokes go into: the one that was taken in hand, else that of the chosen layer. */
function brushOwner({ tool, drawing, session, history }: BenchState): RegionOwner | undefined {
  if (tool === 'brush') return drawing?.owner;
  const layer = findLayer(history.project.layers, session.layer);
  return session.station === 'layers' && !tool && layer?.shown
    ? { kind: 'layer', layer: layer.id }
    : undefined;
}

/** An owner as text, which stays the same as long as it says the same. */
const ownerText = (owner: RegionOwner | undefined): string => (owner ? JSON.stringify(owner) : '');

/** The brush as a tool of the table: draws into a region while the pointer is down, one step of the history a stroke. */
export function useBrush(): Tool | undefined {
  const actions = useActions();
  const { owner, region, name, longEdge, brush, ready } = useBench((s) => {
    const whose = brushOwner(s);
    const { project } = s.history;
    return {
      owner: ownerText(whose),
      region: whose && regionOf(project, whose),
      name: whose?.kind === 'layer' ? findLayer(project.layers, whose.layer)?.name : 'the region',
      longEdge: longEdgeOf(project),
      brush: s.session.brush,
      // what is painted while the merge is still being made is kept, once it is known where on the picture that is
      ready: isPlaced(s) && ['result', 'mask', 'finished'].includes(s.session.look),
    };
  });
  const stroke = useRef<Stroke>(undefined);
  return useMemo<Tool | undefined>(() => {
    const whose = owner === '' ? undefined : (JSON.parse(owner) as RegionOwner);
    if (!whose || !ready || longEdge === 0) return undefined;
    const toPoint = ({ x, y, pressure }: ToolPoint): StrokePoint => [x / longEdge, y / longEdge, pressure];
    const show = (next: Stroke, changed: readonly StrokePoint[]): void => {
      stroke.current = next;
      const box = strokeBox({ ...next, points: changed });
      // a feathered mask and one that follows edges change beyond the brush
      const beyond = region ? 3 * region.feather + 2 * region.follow + Math.abs(region.grow) : 0;
      const touched = {
        x: (box.x - beyond) * longEdge,
        y: (box.y - beyond) * longEdge,
        width: (box.width + 2 * beyond) * longEdge,
        height: (box.height + 2 * beyond) * longEdge,
      };
      actions.draw({ owner: whose, stroke: next, touched });
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
            `${drawn.action === 'reveal' ? 'Revealed in' : 'Hid in'} ${name ?? ''}`,
            addStroke(whose, simplifyStroke(drawn, longEdge)),
          );
        actions.draw(undefined);
      },
    };
  }, [actions, brush, owner, region, name, ready, longEdge]);
}
