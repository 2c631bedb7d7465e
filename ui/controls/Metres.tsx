'use client';
import { Input, Label, NumberField } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, FONT, touchable } from '../tokens';

const LEAST = 0.01;
const MOST = 10_000;

export interface MetresProps {
  readonly label: string;
  readonly value: number;
  /** when a length was typed and confirmed */
  readonly onChange: (metres: number) => void;
}

/** A length that is typed, metres to the centimetre. */
export function Metres({ label, value, onChange }: MetresProps) {
  return (
    <Line
      value={Math.round(100 * value) / 100}
      minValue={LEAST}
      maxValue={MOST}
      formatOptions={{ style: 'unit', unit: 'meter', maximumFractionDigits: 2 }}
      onChange={(metres) => {
        if (metres >= LEAST) onChange(metres);
      }}
    >
      <Label>{label}</Label>
      <Input />
    </Line>
  );
}

const Line = styled(NumberField)`
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
    font: 12px ${FONT.number};
    text-align: right;
  }
`;
