'use client';
import { type ReactNode } from 'react';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';

const Strip = styled.div`
  height: 100%;
  padding: 7px 14px 0;
  min-width: 0;
  h2 {
    font-size: 13px;
    font-weight: 600;
    margin-bottom: 3px;
  }
  ol {
    display: flex;
    gap: 10px;
    overflow-x: auto;
    padding: 3px;
  }
`;

const Card = styled(Button)`
  display: block;
  width: 132px;
  flex: none;
  padding: 0 0 5px;
  border: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  canvas {
    display: block;
    width: 100%;
    height: 80px;
    object-fit: cover;
    background: ${COLOUR.table};
  }
  &[aria-pressed='true'] {
    border-color: ${COLOUR.act};
    box-shadow: 0 0 0 2px ${COLOUR.act};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: 3px;
  }
  b {
    display: block;
    padding: 4px 8px 0;
    font-weight: 600;
    font-size: 12px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    display: block;
    padding: 0 8px;
    font: 10.5px/1.45 ${FONT.number};
    color: ${COLOUR.quiet};
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

/** A tray of pictures with a name and a note each, in a row under a heading. */
export function PictureCards({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Strip>
      <h2>{title}</h2>
      <ol>{children}</ol>
    </Strip>
  );
}

export interface PictureCardProps {
  readonly name: string;
  readonly note: string;
  readonly pressed: boolean;
  readonly onPress: () => void;
  /** the picture */
  readonly children: ReactNode;
}

export function PictureCard({ name, note, pressed, onPress, children }: PictureCardProps) {
  return (
    <li>
      <Card aria-pressed={pressed} onPress={onPress}>
        {children}
        <b>{name}</b>
        <small>{note}</small>
      </Card>
    </li>
  );
}
