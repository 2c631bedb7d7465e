'use client';
import { styled } from 'styled-components';

/** What is said over the picture, one below the other; the picture can be touched beside it. */
export const Notices = styled.div`
  position: absolute;
  top: 12px;
  left: 12px;
  right: 12px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 6px;
  pointer-events: none;
`;
