'use client';
import { styled } from 'styled-components';
import { FONT } from '@/ui/tokens';

/** What the greys and marks on the table mean, at its lower edge. */
export const Legend = styled.div`
  position: absolute;
  left: 12px;
  bottom: 12px;
  max-width: calc(100% - 24px);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 14px;
  padding: 4px 9px;
  background: rgba(27, 27, 26, 0.82);
  color: #f2f2f0;
  font: 11px ${FONT.number};
  pointer-events: none;
  span {
    display: flex;
    align-items: center;
    gap: 6px;
    white-space: nowrap;
  }
  i {
    width: 60px;
    height: 10px;
    background: linear-gradient(to right, #000, #757575 50%, #fff);
  }
`;
