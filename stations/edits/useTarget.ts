'use client';
import { type EditOwner } from '@/store/edits/list';
import { targetOf } from '@/store/edits/openEdit';
import { useBench } from '../benchContext';

/** What edits are made to, followed. */
export function useTarget(): EditOwner {
  return useBench(targetOf);
}
