'use client';
import { Input, Label, TextField } from 'react-aria-components';
import { styled } from 'styled-components';
import { FONT } from '../tokens';
import { fieldLine } from './fieldLine';

const Line = styled(TextField)`
  ${fieldLine}
  input {
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
