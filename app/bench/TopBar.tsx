'use client';
import { Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { Input, TextField } from 'react-aria-components';
import { styled } from 'styled-components';
import { rename } from '@/store/edits/geometry';
import { useActions, useBench } from '@/stations/benchContext';
import { Button } from '@/ui/controls/Button';
import { COLOUR, focusRing, UPRIGHT } from '@/ui/tokens';
import { CommandFinder, type CommandFinderProps } from './CommandFinder';
import { RecordButton } from './RecordButton';
import { WorkProgress } from './WorkProgress';

const Bar = styled.header`
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 12px 0 17px;
  border-bottom: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  a {
    font-weight: 600;
    color: ${COLOUR.ink};
    text-decoration: none;
    letter-spacing: 0.02em;
  }
  a:focus-visible {
    ${focusRing}
  }
  ${UPRIGHT} {
    gap: 4px;
    i {
      width: 60px;
    }
  }
`;

/** What an icon says already. */
const Spare = styled.span`
  ${UPRIGHT} {
    display: none;
  }
`;

const Title = styled(Input)`
  width: 100%;
  height: 28px;
  padding: 0 6px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  text-overflow: ellipsis;
  &[data-hovered] {
    border-color: ${COLOUR.line};
  }
  &[data-focused] {
    border-color: ${COLOUR.control};
    background: ${COLOUR.field};
    outline: none;
  }
`;

const Quiet = styled.span`
  color: ${COLOUR.quiet};
  font-size: 12px;
  white-space: nowrap;
`;

const Progress = styled.div`
  display: flex;
  align-items: center;
  justify-content: center;
  flex: 1;
  gap: 9px;
  white-space: nowrap;
  i {
    display: block;
    width: 110px;
    height: 6px;
    background: ${COLOUR.sunken};
    border: 1px solid ${COLOUR.line};
  }
  small {
    color: ${COLOUR.quiet};
    font-size: 12px;
  }
  i::after {
    content: '';
    display: block;
    height: 100%;
    width: var(--done);
    background: ${COLOUR.act};
  }
`;

/** Where the shelf is, what the project is called, what is going on, and the way back. */
export function TopBar({ commands, more }: CommandFinderProps) {
  const { work, paused, undone, redone } = useBench((s) => ({
    work: s.work,
    paused: s.paused,
    undone: s.history.past[s.history.past.length - 1]?.label,
    redone: s.history.future[0]?.label,
  }));
  const title = useBench((s) => s.history.project.title);
  const actions = useActions();
  return (
    <Bar>
      <Link href="/">marsh</Link>
      <TitleField key={title} title={title} />
      <Progress role="status" aria-live="polite">
        {work && <WorkProgress work={work} />}
        {paused && !work && (
          <>
            <span>Stopped.</span>
            <Button data-main onPress={actions.resume}>
              Go on
            </Button>
          </>
        )}
      </Progress>
      <Saved />
      <Button
        data-plain
        aria-label={undone === undefined ? 'Take back' : `Take back: ${undone}`}
        isDisabled={undone === undefined}
        onPress={actions.undo}
      >
        <Undo2 aria-hidden /> <Spare>Take back</Spare>
      </Button>
      <Button
        data-plain
        aria-label={redone === undefined ? 'Do again' : `Do again: ${redone}`}
        isDisabled={redone === undefined}
        onPress={actions.redo}
      >
        <Redo2 aria-hidden /> <Spare>Again</Spare>
      </Button>
      <CommandFinder commands={commands} more={more} />
      <RecordButton />
    </Bar>
  );
}

/** Whether everything is kept. */
function Saved() {
  // what cannot be kept is not saved, however well the recipe is
  const saving = useBench((s) => (s.unkept.length > 0 ? 'failed' : s.saving));
  return <Quiet>{saving === 'failed' ? 'not saved' : saving === 'saving' ? 'saving …' : 'saved'}</Quiet>;
}

function TitleField({ title }: { title: string }) {
  const [text, setText] = useState(title);
  const actions = useActions();
  const keep = (): void => {
    const next = text.trim().slice(0, 200);
    if (next && next !== title) actions.edit(`Named it ${next}`, rename(next));
    else setText(title);
  };
  return (
    <TextField
      aria-label="Title of the project"
      value={text}
      onChange={setText}
      onBlur={keep}
      style={{ width: 300 }}
    >
      <Title onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()} />
    </TextField>
  );
}
