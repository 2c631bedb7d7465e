'use client';
import { type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import { type EditKindName } from '@/core/edits/editKinds';
import { type SeenNode } from '@/core/view/seenPicture';
import { type Tasks } from '@/engine/tasks';
import { type EditOwner } from '@/store/edits/list';
import { foundBy } from '@/store/matchSides';
import { nodeForEdit } from '@/store/nodeBefore';
import { useBench, useBenchParts } from '../benchContext';

/** What is measured of what an edit finds. */
export type Measuring<T> = (tasks: Remote<Tasks>, found: SeenNode) => Promise<T>;

/** milliseconds that what is found must stay before it is measured */
const STILL_MS = 150;

/**
 * What an edit of a kind finds at a place, measured on a small picture; anew only when what comes before the edit has changed.
 * @param measure the same function every time
 */
export function useFound<T>(at: EditOwner, kind: EditKindName, measure: Measuring<T>): T | undefined {
  const { bench, viewer } = useBenchParts();
  const [measured, setMeasured] = useState<T>();
  const node = useBench((state) => {
    const compiled = bench.shown(state).built?.compiled;
    return compiled && nodeForEdit(state.history.project, compiled, at, kind);
  });
  useEffect(() => {
    const found = node === undefined ? undefined : foundBy(bench, at, kind);
    if (!found) return;
    const controller = new AbortController();
    const timer = setTimeout(() => {
      viewer
        .run((tasks) => measure(tasks, found), { signal: controller.signal, priority: -2 })
        .then((value) => setMeasured(() => value))
        .catch(() => undefined);
    }, STILL_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [at, bench, kind, measure, node, viewer]);
  return measured;
}
