'use client';
import { type Edit } from '@/core/edits/edit';
import { openEditOf } from '@/store/edits/openEdit';
import { useBench } from '../benchContext';

/** The edit whose line is open, followed. */
export function useOpenEdit(): Edit | undefined {
  return useBench(openEditOf);
}

/** Its id, which stays while its settings move. */
export function useOpenEditId(): string | undefined {
  return useBench((s) => openEditOf(s)?.id);
}
