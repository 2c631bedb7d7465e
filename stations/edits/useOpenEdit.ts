'use client';
import { type Edit } from '@/core/edits/edit';
import { type BenchState } from '@/store/benchState';
import { editsAt } from '@/store/edits/list';
import { useBench } from '../benchContext';
import { targetOf } from './useTarget';

/** The edit whose line is open, at what is being changed. */
export function openEditOf(state: BenchState): Edit | undefined {
  const edits = editsAt(state.history.project, targetOf(state));
  const { edit } = state.session;
  return edits.find((e) => e.id === edit) ?? edits.find((e) => e.kind === edit);
}

/** {@link openEditOf}, followed. */
export function useOpenEdit(): Edit | undefined {
  return useBench(openEditOf);
}

/** Its id, which stays while its settings move. */
export function useOpenEditId(): string | undefined {
  return useBench((s) => openEditOf(s)?.id);
}
