'use client';
import { bendOf, fitOf } from '@/core/recipe/setFrames';
import { type Frame } from '@/core/recipe/project';
import { useScope } from '../benchContext';
import { FrameTray } from '../tray/FrameTray';
import { FIT_TEXT as TEXT } from './text';

export function FitTray() {
  const scope = useScope();
  const fitIn = (frame: Pick<Frame, 'id'>) => scope && fitOf(scope, frame);
  const used = (scope?.frames ?? []).filter((f) => f.used);
  const fitted = used.filter((f) => fitIn(f)?.fitted);
  return (
    <FrameTray
      title={TEXT.tray}
      note={`${fitted.length} of ${used.length} fitted`}
      isOut={(frame) => fitIn(frame)?.fitted === false}
      caption={(frame) => {
        const fit = fitIn(frame);
        if (!fit) return frame.used ? 'waiting' : '—';
        if (frame.id === scope?.set.reference) return 'held still';
        return fit.fitted
          ? scope && bendOf(scope, frame)
            ? `bent, ${fit.residual.typical.toFixed(2)} px left`
            : `${fit.residual.typical.toFixed(2)} to ${fit.residual.worst.toFixed(2)} px`
          : 'could not be fitted';
      }}
    />
  );
}
