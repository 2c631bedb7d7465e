'use client';
import { useContext } from 'react';
import { exposureTimeText } from '@/core/capture/exposureValue';
import { widestSpacing } from '@/core/capture/bracketOf';
import { formatStops } from '@/ui/formatFinding';
import { useFrames, useScope } from '../benchContext';
import { FrameTray } from '../tray/FrameTray';
import { TrayActions } from '../tray/trayActions';
import { ArrivingStrip } from './ArrivingFrames';
import { FRAMES_TEXT as TEXT } from './text';

export function FramesTray() {
  const frames = useFrames().map((f) => f.frame);
  const zero = useFrames().find((f) => f.isReference)?.frame.stops ?? 0;
  const kind = useScope()?.set.kind;
  const note =
    frames.length > 1 && kind === 'bracket'
      ? `${frames.length} frames, at most ${widestSpacing(frames.map((f) => f.stops)).toFixed(1)} EV apart`
      : `${frames.length} ${frames.length === 1 ? 'frame' : 'frames'}`;
  return (
    <FrameTray
      title={TEXT.tray}
      note={note}
      waiting={<ArrivingStrip />}
      actions={useContext(TrayActions)}
      caption={({ facts, stops }) =>
        facts.seconds ? exposureTimeText(facts.seconds) : formatStops(stops - zero)
      }
    />
  );
}
