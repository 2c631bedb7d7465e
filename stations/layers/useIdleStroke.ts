'use client';
import { useEffect } from 'react';
import { allLayers } from '@/core/layers/layer';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { idleStroke } from '@/store/strokeEffect';
import { useActions, useBench, useBenchParts } from '../benchContext';

/** points of a stroke that are looked at: its first, its last, and one between */
const LOOKED_AT = [0, 0.5, 1] as const;
/** points between two looks at a stroke that goes on */
const OFTEN = 24;

/** Looks, while a stroke is drawn into a layer's region, whether it can change anything at all there. */
export function useIdleStroke(): void {
  const { bench } = useBenchParts();
  const actions = useActions();
  const chosen = useBench((s) => s.session.layer);
  // a stroke is looked at when it begins, and now and then as it goes on
  const look = useBench((s) => (s.live ? 1 + Math.floor(s.live.stroke.points.length / OFTEN) : 0));
  // what was found of a stroke holds as long as what lies over each other does
  const stack = useBench((s) =>
    allLayers(s.history.project.layers)
      .map(({ id, shown, opacity, blend }) => `${id} ${shown} ${opacity} ${blend}`)
      .join(),
  );
  useEffect(() => actions.tellIdle(undefined), [actions, chosen, stack]);
  useEffect(() => {
    const state = bench.store.getState();
    const { live, history } = state;
    if (look === 0 || live?.owner.kind !== 'layer') return;
    const { points } = live.stroke;
    const longEdge = longEdgeOf(history.project);
    const places = LOOKED_AT.map((share) => points[Math.round(share * (points.length - 1))]).map(
      ([x, y]) => [x * longEdge, y * longEdge] as const,
    );
    const controller = new AbortController();
    const { signal } = controller;
    idleStroke(state, live.owner.layer, { project: history.project, places, pool: bench.pool, signal })
      .then(actions.tellIdle)
      .catch(() => undefined);
    return () => controller.abort();
  }, [bench, actions, look]);
}
