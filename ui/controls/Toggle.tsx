'use client';
import { Checkbox } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, focusRing } from '../tokens';

const Box = styled(Checkbox)`
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  @media (pointer: coarse) {
    min-height: 44px;
  }
  &::before {
    content: '';
    width: 14px;
    height: 14px;
    flex: none;
    border: 1.5px solid ${COLOUR.control};
    border-radius: 2px;
    background: ${COLOUR.raised};
  }
  &[data-selected]::before {
    background: ${COLOUR.ink};
    box-shadow: inset 0 0 0 2.5px ${COLOUR.raised};
  }
  &[data-focus-visible]::before {
    ${focusRing}
  }
  &[data-disabled] {
    opacity: 0.5;
  }
`;

export interface ToggleProps {
  readonly label: string;
  readonly value: boolean;
  readonly disabled?: boolean;
  readonly onChange: (value: boolean) => void;
}

/** On or off. */
export function Toggle({ label, value, disabled, onChange }: ToggleProps) {
  return (
    <Box isSelected={value} isDisabled={disabled} onChange={onChange}>
      {label}
    </Box>
  );
}
