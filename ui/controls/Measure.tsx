'use client';
import { Label, Slider, SliderOutput, SliderThumb, SliderTrack } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, focusRing, FONT } from '../tokens';
import { useHeld } from '../useHeld';

const Row = styled(Slider<number>)`
  display: grid;
  grid-template-columns: 92px 1fr 62px;
  align-items: center;
  gap: 10px;
  min-height: 30px;
  @media (pointer: coarse) {
    min-height: 44px;
  }
`;

const Track = styled(SliderTrack)`
  height: 22px;
  position: relative;
  &::before {
    content: '';
    position: absolute;
    left: 0;
    right: 0;
    top: 10px;
    height: 2px;
    background: ${COLOUR.control};
  }
`;

const Origin = styled.span`
  position: absolute;
  top: 6px;
  width: 1px;
  height: 10px;
  background: ${COLOUR.control};
`;

const Thumb = styled(SliderThumb)`
  width: 9px;
  height: 18px;
  top: 11px;
  background: ${COLOUR.ink};
  border-radius: 2px;
  &[data-focus-visible] {
    ${focusRing}
  }
  &[data-dragging] {
    background: ${COLOUR.act};
  }
`;

const Output = styled(SliderOutput)`
  font-family: ${FONT.number};
  font-size: 12px;
  text-align: right;
`;

export interface MeasureProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  /** how the value reads, with its unit */
  readonly format: (value: number) => string;
  /** a notch at the value that changes nothing */
  readonly neutral?: number;
  readonly onChange: (value: number) => void;
  /** the hand has let go */
  readonly onChangeEnd?: (value: number) => void;
}

/** An amount on a line, read out in its unit. */
export function Measure({
  label,
  value,
  min,
  max,
  step,
  format,
  neutral,
  onChange,
  onChangeEnd,
}: MeasureProps) {
  const [at, hold] = useHeld(value);
  return (
    <Row
      value={at}
      minValue={min}
      maxValue={max}
      step={step}
      onChange={(next) => {
        hold(next);
        onChange(next);
      }}
      onChangeEnd={onChangeEnd}
    >
      <Label>{label}</Label>
      <Track>
        {neutral !== undefined && <Origin style={{ left: `${(100 * (neutral - min)) / (max - min)}%` }} />}
        <Thumb />
      </Track>
      <Output>{() => format(at)}</Output>
    </Row>
  );
}
