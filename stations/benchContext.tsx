'use client';
import { createContext, type ReactNode, useContext, useMemo } from 'react';
import { shallow } from 'zustand/shallow';
import { type Frame, type Project, type SetScope } from '@/core/recipe/project';
import { fitOf, inOrder, referenceOf } from '@/core/recipe/setFrames';
import { type Place } from '@/core/proof/finding';
import { type ViewScene } from '@/core/view/viewScene';
import { type WorkerPool } from '@/engine/workerPool';
import { activeScope } from '@/store/activeSet';
import { type Bench, type BenchActions, type BenchState, type MergedState } from '@/store/benchState';
import { causeOf } from '@/store/movement';
import { mergedNow, shownMerge } from '@/store/madePixels';
import { type FindingSource } from '@/store/stationFindings';
import { type SceneSource } from '@/ui/table/sceneSource';
import { type PictureFirst, pictureFirst } from '@/ui/pictureFirst';
import { useFollowed } from '@/ui/useFollowed';

/** What every station reaches for. */
export interface BenchParts {
  readonly bench: Bench;
  /** the bench's state, to be followed */
  readonly state: PictureFirst<BenchState>;
  /** a worker of its own, so that no merge holds up what is looked at */
  readonly viewer: WorkerPool;
  /** shows a place of the picture on the table */
  readonly showPlace: (place: Place, frame?: string) => void;
}

const Context = createContext<BenchParts | undefined>(undefined);

export function BenchProvider({
  value: { bench, viewer, showPlace },
  children,
}: {
  value: Omit<BenchParts, 'state'>;
  children: ReactNode;
}) {
  const parts = useMemo<BenchParts>(
    () => ({
      bench,
      state: pictureFirst({ get: bench.store.getState, subscribe: bench.store.subscribe }, causeOf),
      viewer,
      showPlace,
    }),
    [bench, viewer, showPlace],
  );
  return <Context value={parts}>{children}</Context>;
}

export function useBenchParts(): BenchParts {
  const parts = useContext(Context);
  if (!parts) throw new Error('a station outside the bench');
  return parts;
}

/** A part of the bench's state; the component follows it. */
export function useBench<T>(select: (state: BenchState) => T): T {
  return useFollowed(useBenchParts().state, select, shallow);
}

export function useActions(): BenchActions {
  return useBenchParts().bench.actions;
}

/** The scene that the views are made from. */
export function useScene(): ViewScene | undefined {
  const { bench, state } = useBenchParts();
  return useFollowed(state, (now) => bench.shown(now).scene);
}

/** Whether there is a scene. */
export function useHasScene(): boolean {
  const { bench, state } = useBenchParts();
  return useFollowed(state, (now) => bench.shown(now).scene !== undefined);
}

/** The scene for the table, which follows it by itself. */
export function useSceneSource(): SceneSource {
  const { bench, state } = useBenchParts();
  return useMemo(
    () => ({
      get: () => bench.shown(bench.store.getState()),
      subscribe: bench.store.subscribe,
      onShown: state.shown,
    }),
    [bench, state],
  );
}

/** What findings of the stations are made from. */
export function useFindingSource(): FindingSource {
  return useBench((s) => ({
    history: s.history,
    session: s.session,
    unreadable: s.unreadable,
    merged: s.merged,
    finished: s.finished,
    made: s.made,
    proofed: s.proofed,
    effects: s.effects,
  }));
}

export function useProject(): Project {
  return useBench((s) => s.history.project);
}

/** The set that is worked on. */
export function useScope(): SetScope | undefined {
  return useBench((s) => activeScope(s));
}

/** The merge of the set that is worked on: as the recipe asks for it now, or whatever stands on the table until then. */
export function useMerged(when: 'now' | 'shown' = 'shown'): MergedState | undefined {
  return useBench((s) => {
    const scope = activeScope(s);
    return scope && (when === 'now' ? mergedNow(s, scope) : shownMerge(s, scope));
  });
}

const NO_FRAMES: readonly Frame[] = [];

/** Frames of the set that is worked on, in the order of the tray, with their names on the bench. */
export function useFrames(): { frame: Frame; name: string; isReference: boolean }[] {
  const scope = useScope();
  const ordered = useMemo(() => (scope ? inOrder(scope) : NO_FRAMES), [scope]);
  const reference = scope && referenceOf(scope)?.id;
  return useMemo(
    () => ordered.map((frame, i) => ({ frame, name: `Frame ${i + 1}`, isReference: frame.id === reference })),
    [ordered, reference],
  );
}

/** The frame that two-frame views compare with the reference: the chosen one, else the first that is fitted. */
export function useCompared(): Frame | undefined {
  return useBench((s) => {
    const scope = activeScope(s);
    if (!scope) return undefined;
    const reference = referenceOf(scope);
    const candidates = inOrder(scope).filter((f) => f.id !== reference?.id && fitOf(scope, f)?.fitted);
    return candidates.find((f) => f.id === s.session.frame) ?? candidates[0];
  });
}
