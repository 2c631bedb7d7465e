'use client';
import { X } from 'lucide-react';
import { useCallback } from 'react';
import { styled } from 'styled-components';
import { type Edit } from '@/core/edits/edit';
import { isLate } from '@/core/edits/ranked';
import { allLayers, findLayer } from '@/core/layers/layer';
import { type Project } from '@/core/recipe/project';
import { type Traced } from '@/core/view/tracePoint';
import { type View } from '@/core/view/viewScene';
import { type Session, type Station } from '@/store/session';
import { useActions, useProject } from '@/stations/benchContext';
import { EDITS_TEXT } from '@/stations/edits/text';
import { regionSentence } from '@/stations/regions/sentence';
import { Button } from '@/ui/controls/Button';
import { type PicturePoint } from '@/ui/table/tool';
import { COLOUR, FONT } from '@/ui/tokens';
import { type Followed, useFollowed } from '@/ui/useFollowed';
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

export interface TraceCardProps {
  readonly view: View;
  /** where the pointer is on the picture */
  readonly pointer: Followed<PicturePoint | undefined>;
  readonly onGo: (station: Station) => void;
  readonly onClose: () => void;
}

/** The pixel under the pointer after every step, the step that moved it most, and the way there. */
export function TraceCard({ view, pointer, onGo, onClose }: TraceCardProps) {
  const found = usePixelTrace(
    view,
    useFollowed(pointer, (now) => now),
  );
  const project = useProject();
  const actions = useActions();
  const most = found?.trace.most === undefined ? undefined : found.trace.steps[found.trace.most];
  const go = useCallback(() => {
    if (!most) return;
    const place = placeOf(most, project);
    if (place.go) actions.go(place.go);
    onGo(place.station);
  }, [actions, most, onGo, project]);
  useBenchKey('g', go);
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
            <li key={`${step.of} ${step.id} ${i}`} data-most={i === found.trace.most ? '' : undefined}>
              <i style={{ background: `rgb(${step.rgb.map(Math.round).join(' ')})` }} aria-hidden />
              <span>{nameOf(step, project)}</span>
              <b>{step.rgb.map((v) => String(Math.round(v)).padStart(3)).join(' ')}</b>
              <b>{i === 0 ? '' : `ΔE ${step.moved.toFixed(1)}`}</b>
            </li>
          ))}
        </Steps>
      )}
      {most && <Button onPress={go}>{nameOf(most, project)} moved it most: go there (g)</Button>}
      {found && !most && <p>No step moves this pixel visibly.</p>}
    </Card>
  );
}

const layerName = (project: Project, id: string): string =>
  findLayer(project.layers, id)?.name ?? project.sets.find((s) => s.id === id)?.name ?? 'a layer';

/** An edit by its id, wherever it is made. */
function editOf(project: Project, id: string): Edit | undefined {
  const lists = [
    project.edits,
    ...project.sets.map((s) => s.edits),
    ...allLayers(project.layers).map((l) => l.edits),
  ];
  return lists.flat().find((e) => e.id === id);
}

/** What was done: the layer, the edit and its region. */
function nameOf({ of, id, at }: Traced, project: Project): string {
  switch (of) {
    case 'frame':
      return `Shot: ${project.frames.find((f) => f.id === id)?.file ?? 'reference'}`;
    case 'merge':
      return 'Merged';
    case 'layer':
      return `Layer ${layerName(project, id)}`;
    case 'straighten':
      return 'Set straight';
    case 'edit': {
      const edit = editOf(project, id);
      const { where } = edit ?? {};
      const region = typeof where === 'string' ? project.regions.find((r) => r.id === where) : where;
      const words = [
        edit ? EDITS_TEXT.names[edit.kind] : 'A change',
        at === undefined || at === 'whole' ? '' : `of ${layerName(project, at)}`,
        region ? regionSentence(region) : '',
      ];
      return words.filter(Boolean).join(' ');
    }
  }
}

/** Where a step of the trace is made, and what to open there. */
function placeOf({ of, id, at }: Traced, project: Project): { station: Station; go?: Partial<Session> } {
  switch (of) {
    case 'frame':
      return { station: 'frames', go: { frame: id } };
    case 'merge':
      return { station: 'merge', go: { set: id } };
    case 'layer':
      return { station: 'layers', go: { layer: id } };
    case 'straighten':
      return { station: 'finish' };
    case 'edit': {
      if (at === undefined || at === 'whole')
        return {
          station: isLate(editOf(project, id) ?? NO_EDIT) ? 'finish' : 'match',
          go: { target: { kind: 'whole' }, edit: id },
        };
      const isSet = project.sets.some((s) => s.id === at);
      return {
        station: 'match',
        go: { target: isSet ? { kind: 'set', id: at } : { kind: 'layer', id: at }, edit: id },
      };
    }
  }
}

const NO_EDIT: Edit = { id: '', kind: 'exposure', settings: { stops: 0 }, amount: 1, on: true };
