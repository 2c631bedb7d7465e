'use client';
import { useEffect, useState } from 'react';
import { styled } from 'styled-components';
import { type View, type ViewScene } from '@/core/view/viewScene';
import { type Trace } from '@/core/view/tracePoint';
import { type Look, type Station } from '@/store/session';
import { LOOK_NAMES, LOOKS } from '@/stations/looks';
import { useBenchParts, useFrames } from '@/stations/benchContext';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { COLOUR, FONT } from '@/ui/tokens';

const Bar = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 10px;
  border-bottom: 1px solid ${COLOUR.line};
  min-width: 0;
`;

const Readout = styled.output`
  margin-left: auto;
  font: 11.5px ${FONT.number};
  color: ${COLOUR.quiet};
  white-space: pre;
  overflow: hidden;
`;

export interface LookBarProps {
  readonly station: Station;
  readonly look: Look;
  readonly onLook: (look: Look) => void;
  readonly zoom: number;
  readonly onZoom: () => void;
  readonly scene: ViewScene | undefined;
  readonly view: View;
  readonly pointer: { readonly x: number; readonly y: number } | undefined;
}

/** What the table shows, and what lies under the pointer. */
export function LookBar({ station, look, onLook, zoom, onZoom, scene, view, pointer }: LookBarProps) {
  const options = LOOKS[station];
  if (!scene) return <Bar />;
  const percent = zoom >= 0.1 ? Math.round(100 * zoom) : (100 * zoom).toFixed(1);
  return (
    <Bar>
      {options.length > 1 && (
        <Choice
          label="On the table"
          value={look}
          options={options.map((value) => ({ value, label: LOOK_NAMES[value] }))}
          onChange={onLook}
        />
      )}
      <Button data-plain onPress={onZoom} aria-label="Between the whole picture and 1:1">
        {percent} %
      </Button>
      <PointReadout scene={scene} view={view} pointer={pointer} />
    </Bar>
  );
}

const PAUSE_MS = 40;
const UNDER = 'Under the pointer';

/** Codes, zone and origin of the pixel under the pointer, once it rests. */
function PointReadout({ scene, view, pointer }: Pick<LookBarProps, 'scene' | 'view' | 'pointer'>) {
  const { viewer } = useBenchParts();
  const frames = useFrames();
  const [trace, setTrace] = useState<Trace>();
  const x = pointer && Math.floor(pointer.x);
  const y = pointer && Math.floor(pointer.y);
  useEffect(() => {
    if (!scene || x === undefined || y === undefined) return;
    const controller = new AbortController();
    const timer = setTimeout(() => {
      viewer
        .run((tasks) => tasks.trace(scene, view, x, y), { signal: controller.signal, priority: -1 })
        .then(setTrace)
        .catch(() => undefined);
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [scene, view, x, y, viewer]);
  if (x === undefined || y === undefined || !trace) return <Readout aria-label={UNDER} />;
  const name = (id: string): string =>
    frames.find((f) => f.frame.id === id)?.name.replace('Frame ', '') ?? '?';
  const origin = trace.shares
    .filter((s) => s.share >= 0.1)
    .slice(0, 3)
    .map((s) => `${name(s.frame)}:${Math.round(100 * s.share)}%`)
    .join(' ');
  const zone =
    trace.zone === undefined
      ? ''
      : `${trace.zone < 0 ? '−' : '+'}${Math.abs(trace.zone).toFixed(1)} stops   `;
  return (
    <Readout
      aria-label={UNDER}
    >{`x ${x} y ${y}   ${trace.rgb.join(' ')}   ${zone}${origin && `from ${origin}`}`}</Readout>
  );
}
