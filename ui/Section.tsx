'use client';
import { type ReactNode } from 'react';
import { styled } from 'styled-components';
import { COLOUR } from './tokens';

const Box = styled.section`
  padding: 13px 15px 14px;
  border-bottom: 1px solid ${COLOUR.line};
  display: flex;
  flex-direction: column;
  gap: 7px;
`;

const Title = styled.h2`
  font-size: 14px;
  font-weight: 600;
`;

/** A part of a panel under its heading. */
export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box aria-label={title}>
      <Title>{title}</Title>
      {children}
    </Box>
  );
}

/** Advice: what is wrong, why, and the one action. */
export const Advice = styled.div`
  border: 1px solid ${COLOUR.line};
  border-left: 3px solid ${COLOUR.act};
  background: ${COLOUR.raised};
  padding: 9px 11px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 8px;
`;

/** Quiet explanation under a control. */
export const Hint = styled.p`
  color: ${COLOUR.quiet};
  font-size: 12px;
`;

/** Controls side by side. */
export const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
`;
