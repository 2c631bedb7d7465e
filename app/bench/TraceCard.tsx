'use client';
import { X } from 'lucide-react';
import { useCallback } from 'react';
import { styled } from 'styled-components';
import { type Traced } from '@/core/view/tracePoint';
import { type View } from '@/core/view/viewScene';
import { type Station } from '@/store/session';
import { useBench } from '@/stations/benchContext';
import { Button } from '@/ui/controls/Button';
import { COLOUR, FONT } from '@/ui/tokens';
import { STATION_NAMES } from './Trail';
import { useBenchKey } from './useBenchKeys';
import { usePixelTrace } from './usePixelTrace';

const Card = styled.section`
  position: absolute;
  left: 12px;
  bottom: 12px;
  width: 330px;
  max-height: calc(100% - 24px);
  overflow-y: auto;
  padding: 9px 12px 10px;
  background: ${COLOUR.panel};
  border: 1px solid ${COLOUR.control};
  header {
    display: flex;
    align-items: center;
    justify-content: space-between;
  }
  h2 {
    font-size: 13px;
    font-weight: 600;
  }
  p {
    color: ${COLOUR.quiet};
    font-size: 12px;
  }
`;

const Steps = styled.ol`
  margin: 4px 0 6px;
  font: 11.5px/1.3 ${FONT.number};
  li {
    display: grid;
    grid-template-columns: 16px minmax(0, 1fr) 92px 56px;
    align-items: center;
    gap: 8px;
    min-height: 23px;
    border-bottom: 1px solid ${COLOUR.line};
  }
  li[data-most] {
    font-weight: 600;
    box-shadow: -4px 0 0 ${COLOUR.act};
  }
  i {
    width: 16px;
    height: 16px;
    border: 1px solid ${COLOUR.control};
  }
  span {
    font-family: ${FONT.text};
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  b {
    font-weight: inherit;
    text-align: right;
    white-space: pre;
  }
`;

const WORDS: Readonly<Record<string, string>> = {
  merge: 'Merged',
  set: 'The set matched',
  whole: 'The whole matched',
  noise: 'Noise taken out',
  exposure: 'Exposed',
  sharpen: 'Sharpened',
};

export interface TraceCardProps {
  readonly view: View;
  readonly pointer: { readonly x: number; readonly y: number } | undefined;
  readonly onGo: (station: Station) => void;
  readonly onClose: () => void;
}

/** The pixel under the pointer after every step, the step that moved it most, and the way there. */
export function TraceCard({ view, pointer, onGo, onClose }: TraceCardProps) {
  const found = usePixelTrace(view, pointer);
  const { frames, layers } = useBench((s) => ({
    frames: s.history.project.frames,
    layers: s.history.project.layers,
  }));
  const most = found?.trace.most === undefined ? undefined : found.trace.steps[found.trace.most];
  const go = useCallback(() => most && onGo(most.step), [most, onGo]);
  useBenchKey('g', go);
  const nameOf = ({ what, step }: Traced): string => {
    if (step === 'frames') return `Shot: ${frames.find((f) => f.id === what)?.file ?? 'reference'}`;
    const layer = layers.find((l) => l.id === what)?.name;
    if (step === 'match' && layer) return `Layer ${layer} matched`;
    return WORDS[what] ?? `Layer ${layer ?? ''}`;
  };
  return (
    <Card aria-label="Trace of a pixel">
      <header>
        <h2>{found ? `Pixel ${found.x}, ${found.y}` : 'Trace'}</h2>
        <Button data-plain aria-label="Close the trace" onPress={onClose}>
          <X aria-hidden />
        </Button>
      </header>
      {!found && <p>Point at a pixel of the picture.</p>}
      {found && (
        <Steps>
          {found.trace.steps.map((step, i) => (
            <li key={`${step.step} ${step.what}`} data-most={i === found.trace.most ? '' : undefined}>
              <i style={{ background: `rgb(${step.rgb.map(Math.round).join(' ')})` }} aria-hidden />
              <span>{nameOf(step)}</span>
              <b>{step.rgb.map((v) => String(Math.round(v)).padStart(3)).join(' ')}</b>
              <b>{i === 0 ? '' : `ΔE ${step.moved.toFixed(1)}`}</b>
            </li>
          ))}
        </Steps>
      )}
      {most && <Button onPress={go}>{STATION_NAMES[most.step]} moved it most: go there (g)</Button>}
      {found && !most && <p>No step moves this pixel visibly.</p>}
    </Card>
  );
}
