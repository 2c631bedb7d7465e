'use client';
import { useMemo, useRef } from 'react';
import { findLayer } from '@/core/layers/layer';
import { simplifyStroke } from '@/core/mask/simplifyStroke';
import { type Stroke, strokeBox, type StrokePoint } from '@/core/mask/stroke';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { baseScope, panoramaOf } from '@/core/recipe/setFrames';
import { type BenchState } from '@/store/benchState';
import { brushOwner, brushSide, ownerName } from '@/store/brushSide';
import { addStroke, regionOf, type RegionOwner } from '@/store/edits/regions';
import { type Brush } from '@/store/session';
import { type Tool, type ToolPoint } from '@/ui/table/tool';
import { useActions, useBench } from '../benchContext';
import { pulled } from './steadyLine';
import { shaped, useBrushKeys } from './useBrushKeys';

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

/** A line drawn on to where the hand is, as by a string. @param size of the brush: steps much smaller add nothing */
function lengthened(
  points: readonly StrokePoint[],
  [x, y, pressure]: StrokePoint,
  string: number,
  size: number,
): readonly StrokePoint[] {
  const [lx, ly, lp] = points[points.length - 1];
  const end = pulled({ x: lx, y: ly, pressure: lp }, { x, y, pressure }, string);
  return Math.hypot(end.x - lx, end.y - ly) >= LEAST_STEP * size
    ? [...points, [end.x, end.y, end.pressure]]
    : points;
}

/** The brush as a tool of the table: draws into a region while the pointer is down, one step of the history a stroke. */
export function useBrush(): Tool | undefined {
  const actions = useActions();
  const { owner, region, name, longEdge, brush, side, ready } = useBench((s) => {
    const whose = brushOwner(s);
    const { project } = s.history;
    return {
      owner: whose ? ownerName(whose) : '',
      region: whose && regionOf(project, whose),
      name: whose?.kind === 'layer' ? findLayer(project.layers, whose.layer)?.name : 'the region',
      longEdge: longEdgeOf(project),
      brush: s.session.brush,
      side: brushSide(s, whose),
      // what is painted while the merge is still being made is kept, once it is known where on the picture that is
      ready: isPlaced(s) && ['result', 'mask', 'finished'].includes(s.session.look),
    };
  });
  const stroke = useRef<Stroke>(undefined);
  /** where the hand is, and where it asked for a straight line: points of the stroke until then */
  const hand = useRef<StrokePoint>(undefined);
  const straightFrom = useRef<readonly StrokePoint[]>(undefined);
  /** a drag that shapes the brush: where it began, and the brush then */
  const shaping = useRef<{ readonly from: StrokePoint; readonly brush: Brush }>(undefined);
  const keyHeld = useBrushKeys(owner !== '');
  return useMemo<Tool | undefined>(() => {
    const whose = owner === '' ? undefined : (JSON.parse(owner) as RegionOwner);
    if (!whose || !ready || longEdge === 0) return undefined;
    const toPoint = ({ x, y, pressure }: ToolPoint): StrokePoint => [x / longEdge, y / longEdge, pressure];
    const string = (brush.steady ?? 0) * brush.size;
    const show = (next: Stroke, changed: readonly StrokePoint[]): void => {
      stroke.current = next;
      const box = strokeBox({ ...next, points: changed });
      // a feathered mask and one that follows edges change beyond the brush
      const byShape = region ? 3 * region.feather + 2 * region.follow + Math.abs(region.grow) : 0;
      // what is learned of the thing where the hand is counts around it
      const beyond = byShape + (next.inside ? 1.25 * next.size : 0);
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
        const from = toPoint(point);
        if (keyHeld.current) {
          shaping.current = { from, brush };
          return;
        }
        hand.current = from;
        straightFrom.current = undefined;
        const { size, softness, flow, inside } = brush;
        const started = { action: side, size, softness, flow, points: [from] };
        show(inside ? { ...started, inside } : started, [from]);
      },
      onMove: (samples) => {
        if (shaping.current) {
          const { from, brush: start } = shaping.current;
          const [x, y] = toPoint(samples[samples.length - 1]);
          // as far up as the brush is wide: half softer
          const softer = (from[1] - y) / (2 * start.size);
          actions.go({ brush: shaped(start, start.size + 2 * (x - from[0]), start.softness + softer) });
          return;
        }
        const before = stroke.current;
        if (!before || before.points.length >= MOST_POINTS) return;
        let points = before.points;
        for (const sample of samples) {
          hand.current = toPoint(sample);
          if (sample.straight) {
            straightFrom.current ??= points;
            points = [...straightFrom.current, hand.current];
            continue;
          }
          straightFrom.current = undefined;
          points = lengthened(points, hand.current, string, brush.size);
        }
        if (points === before.points) return;
        const isStraight = straightFrom.current !== undefined;
        // a straight line turns about its beginning: where it lay before changes too
        const changed = isStraight
          ? [...before.points.slice(-1), ...points.slice(-2)]
          : points.slice(Math.max(0, before.points.length - 1));
        show({ ...before, points }, changed);
      },
      onEnd: () => {
        shaping.current = undefined;
        const line = stroke.current;
        stroke.current = undefined;
        // a line that stayed behind ends where the hand does
        const drawn =
          line && hand.current
            ? { ...line, points: lengthened(line.points, hand.current, 0, brush.size) }
            : line;
        if (drawn)
          actions.edit(
            `${drawn.action === 'reveal' ? 'Revealed in' : 'Hid in'} ${name ?? ''}`,
            addStroke(whose, simplifyStroke(drawn, longEdge)),
          );
        actions.draw(undefined);
      },
      onCancel: () => {
        shaping.current = undefined;
        stroke.current = undefined;
        actions.draw(undefined);
      },
    };
  }, [actions, brush, side, owner, region, name, ready, longEdge, keyHeld]);
}
