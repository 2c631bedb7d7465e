'use client';
import { useMemo } from 'react';
import { useBenchParts } from '@/stations/benchContext';
import { type LookSources, type Shown, viewsOf } from '@/stations/looks';
import { type Look } from '@/store/session';
import { useFollowed } from '@/ui/useFollowed';

/** The views that a look stands for; the same objects as long as they say the same, whatever changes in the picture. */
export function useViews(look: Look, from: Omit<LookSources, 'shown'>): Shown {
  const { bench, state } = useBenchParts();
  const text = useFollowed(state, (now) =>
    JSON.stringify(viewsOf(look, { ...from, shown: bench.shown(now) })),
  );
  return useMemo(() => JSON.parse(text) as Shown, [text]);
}
