'use client';
import { X } from 'lucide-react';
import { styled } from 'styled-components';
import { useActions, useBench } from '@/stations/benchContext';
import { Button } from '@/ui/controls/Button';
import { COLOUR } from '@/ui/tokens';
import { VerdictMark } from '@/ui/VerdictMark';

const List = styled.ul`
  display: flex;
  flex-direction: column;
  gap: 6px;
  li {
    pointer-events: auto;
    align-self: flex-start;
    display: flex;
    align-items: center;
    gap: 10px;
    max-width: 720px;
    padding: 6px 6px 6px 12px;
    background: ${COLOUR.raised};
    border: 1px solid ${COLOUR.control};
  }
`;

/** Sentences about what went wrong, until they are dismissed. */
export function Problems() {
  const problems = useBench((s) => s.problems);
  const actions = useActions();
  return (
    <List role="alert">
      {problems.map((sentence) => (
        <li key={sentence}>
          <VerdictMark verdict="watch" />
          <span>{sentence}</span>
          <Button data-plain aria-label="Dismiss" onPress={() => actions.dismiss(sentence)}>
            <X aria-hidden />
          </Button>
        </li>
      ))}
    </List>
  );
}
