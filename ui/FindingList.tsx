'use client';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { type Finding } from '@/core/proof/finding';
import { formatValue } from './formatFinding';
import { COLOUR, focusRing, FONT } from './tokens';
import { VerdictMark } from './VerdictMark';

const Row = styled(Button)`
  display: grid;
  grid-template-columns: 15px 1fr auto;
  align-items: center;
  gap: 8px;
  width: 100%;
  min-height: 27px;
  padding: 2px 0;
  border: 0;
  border-bottom: 1px solid ${COLOUR.line};
  background: none;
  text-align: left;
  cursor: default;
  &[data-hovered] {
    background: ${COLOUR.raised};
  }
  &[data-focus-visible] {
    ${focusRing}
  }
  @media (pointer: coarse) {
    min-height: 44px;
  }
`;

const Value = styled.span`
  font-family: ${FONT.number};
  font-size: 12px;
`;

const Why = styled.p`
  padding: 6px 0 7px 23px;
  color: ${COLOUR.quiet};
  border-bottom: 1px solid ${COLOUR.line};
`;

export interface FindingListProps<F extends Finding> {
  readonly findings: readonly F[];
  readonly chosen?: string;
  /** the user asks what it means, and where it is */
  readonly onChoose: (finding: F) => void;
}

/** Findings of a step; the chosen one opens its sentence and its place on the table. */
export function FindingList<F extends Finding>({ findings, chosen, onChoose }: FindingListProps<F>) {
  return (
    <ul>
      {findings.map((f) => (
        <li key={f.id}>
          <Row onPress={() => onChoose(f)} aria-expanded={f.id === chosen}>
            <VerdictMark verdict={f.verdict} />
            <span>{f.label}</span>
            <Value>{formatValue(f.value, f.unit)}</Value>
          </Row>
          {f.id === chosen && <Why>{f.why}</Why>}
        </li>
      ))}
    </ul>
  );
}
