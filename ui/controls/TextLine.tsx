'use client';
import { Input, Label, TextField } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, FONT, touchable } from '../tokens';

const Line = styled(TextField)`
  display: grid;
  grid-template-columns: 92px 1fr;
  align-items: center;
  gap: 10px;
  input {
    ${touchable}
    min-width: 0;
    padding: 0 8px;
    border: 1px solid ${COLOUR.control};
    border-radius: 3px;
    background: ${COLOUR.raised};
    font: 13px ${FONT.text};
  }
`;

export interface TextLineProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
}

/** A name that is typed: one line, as long as a project keeps one. */
export function TextLine({ label, value, onChange }: TextLineProps) {
  return (
    <Line value={value} onChange={onChange}>
      <Label>{label}</Label>
      <Input maxLength={120} />
    </Line>
  );
}
