'use client';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { KIND_NAMES } from '@/core/capture/setKind';
import { type Project } from '@/core/recipe/project';
import { plates, setScope } from '@/core/recipe/setFrames';
import { worstFinding } from '@/core/proof/finding';
import { findingsOfFit } from '@/store/stationFindings';
import { setBase } from '@/store/edits/sets';
import { COLOUR, focusRing, touchable } from '@/ui/tokens';
import { VerdictMark } from '@/ui/VerdictMark';
import { useActions, useBench, useProject, useScope } from '../benchContext';
import { Detail } from './TrayAction';

const Bar = styled.div`
  display: flex;
  gap: 4px;
  min-width: 0;
  overflow-x: auto;
`;

const Tab = styled(Button)`
  ${touchable}
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 24px;
  padding: 0 8px;
  border: 1px solid ${COLOUR.line};
  border-radius: 3px;
  background: ${COLOUR.raised};
  white-space: nowrap;
  font-size: 12px;
  cursor: default;
  &[aria-pressed='true'] {
    background: ${COLOUR.ink};
    color: ${COLOUR.raised};
  }
  &[data-focus-visible] {
    ${focusRing}
  }
  svg {
    width: 10px;
    height: 10px;
  }
`;

/** Whether a project has more than one set to choose from. */
export function isSetBarShown(project: Pick<Project, 'frames' | 'sets'>): boolean {
  return project.sets.length > 1 || plates(project).length > 0;
}

/** The sets of the project beside each other, and the pictures that belong to none; nothing where there is one set alone. */
export function SetBar() {
  const project = useProject();
  const here = useScope()?.set.id;
  const chosen = useBench((s) => s.session.frame);
  const actions = useActions();
  if (!isSetBarShown(project)) return null;
  return (
    <Bar role="group" aria-label="Sets">
      {project.sets.map((set) => {
        const scope = setScope(project, set.id);
        const worst = worstFinding((scope && findingsOfFit(scope)) ?? []);
        return (
          <Tab
            key={set.id}
            aria-pressed={set.id === here}
            onPress={() => actions.go({ set: set.id, frame: set.reference })}
          >
            <VerdictMark verdict={worst?.verdict ?? 'none'} />
            <span>
              {set.name}
              <Detail>
                : {KIND_NAMES[set.kind]} of {set.frames.length}
                {set.id === project.base && project.sets.length > 1 ? ', base' : ''}
              </Detail>
            </span>
          </Tab>
        );
      })}
      {here !== undefined && here !== project.base && (
        <Tab onPress={() => actions.edit('Base of the picture', setBase(here))}>Make it the base</Tab>
      )}
      {plates(project).map((frame) => (
        <Tab
          key={frame.id}
          aria-label={`By itself, ${frame.file}`}
          aria-pressed={frame.id === chosen}
          onPress={() => actions.go({ frame: frame.id })}
        >
          {frame.file}
        </Tab>
      ))}
    </Bar>
  );
}
