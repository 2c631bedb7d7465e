'use client';
import { useMemo } from 'react';
import { standIns } from '@/core/recipe/views';
import { useMerged, useScope } from '../benchContext';
import { FrameTray } from '../tray/FrameTray';
import { meanShares } from './shares';
import { MERGE_TEXT as TEXT } from './text';

export function MergeTray() {
  const merged = useMerged();
  const scope = useScope();
  const standsFor = scope ? standIns(scope) : (id: string) => id;
  const shares = useMemo(() => meanShares(merged), [merged]);
  return (
    <FrameTray
      title={TEXT.tray}
      note={merged ? `${merged.scene.frames.length} merged` : 'not merged'}
      isOut={(frame) => merged !== undefined && !shares.has(standsFor(frame.id))}
      caption={(frame) => {
        if (standsFor(frame.id) !== frame.id) return TEXT.inView;
        const share = shares.get(frame.id);
        return share === undefined ? '—' : `${(100 * share).toFixed(1)} % of it`;
      }}
    />
  );
}
