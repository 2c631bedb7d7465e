'use client';
import { type Edit } from '@/core/edits/edit';
import { editsAt } from '@/store/edits/list';
import { useBench } from '../benchContext';
import { useTarget } from './useTarget';

/** The edit whose line is open, at what is being changed. */
export function useOpenEdit(): Edit | undefined {
  const at = useTarget();
  return useBench((s) => {
    const edits = editsAt(s.history.project, at);
    const { edit } = s.session;
    return edits.find((e) => e.id === edit) ?? edits.find((e) => e.kind === edit);
  });
}
