'use client';
import { styled } from 'styled-components';
import { COLOUR, FONT } from '@/ui/tokens';

/** Measures line by line, numbers on the right. */
export const Lines = styled.table`
  width: 100%;
  border-collapse: collapse;
  caption {
    padding-bottom: 3px;
    text-align: left;
    font-weight: 600;
  }
  th {
    font-weight: 400;
    text-align: left;
  }
  td,
  th {
    padding: 2px 0;
    border-top: 1px solid ${COLOUR.line};
  }
  td {
    font: 11.5px/1.5 ${FONT.number};
    text-align: right;
    white-space: nowrap;
    padding-left: 9px;
  }
  thead td,
  thead th {
    border: 0;
    color: ${COLOUR.quiet};
    font-size: 11.5px;
  }
`;
