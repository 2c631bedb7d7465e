'use client';
import { useState } from 'react';
import { Input, Label, NumberField } from 'react-aria-components';
import { styled } from 'styled-components';
import { FONT } from '../tokens';
import { fieldLine } from './fieldLine';

const LEAST = 0.01;
const MOST = 10_000;

export interface MetresProps {
  readonly label: string;
  readonly value: number;
  /** when a length was typed and confirmed */
  readonly onChange: (metres: number) => void;
}

/** A length that is typed, metres to the centimetre; what arrives while it is being typed waits. */
export function Metres({ label, value, onChange }: MetresProps) {
  const shown = Math.round(100 * value) / 100;
  const [before, setBefore] = useState<number>();
  return (
    <Line
      value={before ?? shown}
      minValue={LEAST}
      maxValue={MOST}
      formatOptions={{ style: 'unit', unit: 'meter', maximumFractionDigits: 2 }}
      onBlur={() => setBefore(undefined)}
      onChange={(metres) => {
        setBefore(undefined);
        if (metres >= LEAST) onChange(metres);
      }}
    >
      <Label>{label}</Label>
      <Input onInput={() => setBefore(before ?? shown)} />
    </Line>
  );
}

const Line = styled(NumberField)`
  ${fieldLine}
  input {
    font: 12px ${FONT.number};
    text-align: right;
  }
`;
