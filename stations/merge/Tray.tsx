'use client';
import { useMemo } from 'react';
import { useBench } from '../benchContext';
import { FrameTray } from '../tray/FrameTray';
import { meanShares } from './shares';
import { MERGE_TEXT as TEXT } from './text';

export function MergeTray() {
  const merged = useBench((s) => s.merged);
  const shares = useMemo(() => meanShares(merged), [merged]);
  return (
    <FrameTray
      title={TEXT.tray}
      note={merged ? `${merged.scene.frames.length} merged` : 'not merged'}
      isOut={(frame) => merged !== undefined && !shares.has(frame.id)}
      caption={(frame) => {
        const share = shares.get(frame.id);
        return share === undefined ? '—' : `${(100 * share).toFixed(1)} % of it`;
      }}
    />
  );
}
