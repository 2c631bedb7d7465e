'use client';
import { createContext, type ReactNode, useContext, useMemo } from 'react';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { type Frame, fitOf, inOrder, referenceOf } from '@/core/recipe/project';
import { type Place } from '@/core/proof/finding';
import { type ViewScene } from '@/core/view/viewScene';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench, type BenchActions, type BenchState } from '@/store/bench';
import { buildScene } from '@/store/buildScene';
import { shownMerge } from '@/store/proxyStage';
import { evened } from '@/store/preparedFrames';
import { type FindingSource } from '@/store/stationFindings';

/** What every station reaches for. */
export interface BenchParts {
  readonly bench: Bench;
  /** a worker of its own, so that no merge holds up what is looked at */
  readonly viewer: WorkerPool;
  /** shows a place of the picture on the table */
  readonly showPlace: (place: Place, frame?: string) => void;
}

const Context = createContext<BenchParts | undefined>(undefined);

export function BenchProvider({ value, children }: { value: BenchParts; children: ReactNode }) {
  return <Context value={value}>{children}</Context>;
}

export function useBenchParts(): BenchParts {
  const parts = useContext(Context);
  if (!parts) throw new Error('a station outside the bench');
  return parts;
}

/** A part of the bench's state; the component follows it. */
export function useBench<T>(select: (state: BenchState) => T): T {
  return useStore(useBenchParts().bench.store, useShallow(select));
}

export function useActions(): BenchActions {
  return useBenchParts().bench.actions;
}

/** The scene that the views are made from. */
export function useScene(): ViewScene | undefined {
  const { project, decoded, merge, rival, prepared, views, live } = useBench((s) => ({
    project: s.history.project,
    decoded: s.decoded,
    merge: shownMerge(s),
    rival: s.rival,
    prepared: s.prepared,
    views: s.views,
    live: s.live,
  }));
  return useMemo(
    () =>
      buildScene(project, decoded, merge, {
        live,
        rival: rival?.scene,
        prepared: evened(project, prepared),
        views,
      }),
    [project, decoded, merge, rival?.scene, prepared, views, live],
  );
}

/** What findings of the stations are made from. */
export function useFindingSource(): FindingSource {
  return useBench((s) => ({
    history: s.history,
    unreadable: s.unreadable,
    merged: s.merged,
    finished: s.finished,
    measured: s.measured,
    proofed: s.proofed,
  }));
}

/** Frames in the order of the tray, with their names on the bench. */
export function useFrames(): { frame: Frame; name: string; isReference: boolean }[] {
  const project = useBench((s) => s.history.project);
  return useMemo(() => {
    const reference = referenceOf(project);
    return inOrder(project).map((frame, i) => ({
      frame,
      name: `Frame ${i + 1}`,
      isReference: frame.id === reference?.id,
    }));
  }, [project]);
}

/** The frame that two-frame views compare with the reference: the chosen one, else the first that is fitted. */
export function useCompared(): Frame | undefined {
  const { project, chosen } = useBench((s) => ({ project: s.history.project, chosen: s.session.frame }));
  const reference = referenceOf(project);
  const candidates = inOrder(project).filter((f) => f.id !== reference?.id && fitOf(project, f)?.fitted);
  return candidates.find((f) => f.id === chosen) ?? candidates[0];
}
