'use client';
import { useEffect, useRef, useState } from 'react';
import { type Trace } from '@/core/view/tracePoint';
import { type View } from '@/core/view/viewScene';
import { tracedScene } from '@/store/tracedScene';
import { useBenchParts, useScene } from '@/stations/benchContext';

/** milliseconds for which the pointer rests before its pixel is traced */
const PAUSE_MS = 40;
/** milliseconds for which the picture stays as it is before its pixels are traced: the same worker draws what the hand changes */
const STILL_MS = 220;

/** A traced pixel and where it is. */
export interface PixelTrace {
  readonly x: number;
  readonly y: number;
  readonly trace: Trace;
}

/** The trace of the pixel under the pointer, once it rests; the last one while it is away. */
export function usePixelTrace(
  view: View,
  pointer: { readonly x: number; readonly y: number } | undefined,
): PixelTrace | undefined {
  const { viewer, bench } = useBenchParts();
  const scene = useScene();
  const [found, setFound] = useState<PixelTrace>();
  const x = pointer && Math.floor(pointer.x);
  const y = pointer && Math.floor(pointer.y);
  const last = useRef(scene);
  useEffect(() => {
    if (!scene || x === undefined || y === undefined) return;
    const controller = new AbortController();
    const pause = last.current && last.current !== scene ? STILL_MS : PAUSE_MS;
    last.current = scene;
    const timer = setTimeout(() => {
      const traced = tracedScene(bench.store.getState(), scene);
      viewer
        .run((tasks) => tasks.trace(traced.scene, view, x, y, traced.spine, traced.isBase), {
          signal: controller.signal,
          priority: -1,
        })
        .then((trace) => setFound(trace && { x, y, trace }))
        .catch(() => undefined);
    }, pause);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [scene, view, x, y, viewer, bench]);
  return found;
}
