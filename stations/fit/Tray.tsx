'use client';
import { fitOf } from '@/core/recipe/project';
import { useBench } from '../benchContext';
import { FrameTray } from '../tray/FrameTray';
import { FIT_TEXT as TEXT } from './text';

export function FitTray() {
  const project = useBench((s) => s.history.project);
  const used = project.frames.filter((f) => f.used);
  const fitted = used.filter((f) => fitOf(project, f)?.fitted);
  return (
    <FrameTray
      title={TEXT.tray}
      note={`${fitted.length} of ${used.length} fitted`}
      isOut={(frame) => fitOf(project, frame)?.fitted === false}
      caption={(frame) => {
        const fit = fitOf(project, frame);
        if (!fit) return frame.used ? 'waiting' : '—';
        if (frame.id === project.set.reference) return 'held still';
        return fit.fitted
          ? `${fit.residual.typical.toFixed(2)} to ${fit.residual.worst.toFixed(2)} px`
          : 'could not be fitted';
      }}
    />
  );
}
