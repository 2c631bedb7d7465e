'use client';
import { type Key, ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, focusRing, touchable } from '../tokens';

const Group = styled(ToggleButtonGroup)`
  display: inline-flex;
  border: 1px solid ${COLOUR.control};
  border-radius: 3px;
  /* where there is no room for all, the others are reached by scrolling and by keys */
  overflow: auto hidden;
  scrollbar-width: none;
  background: ${COLOUR.raised};
  &[data-grid] {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 1px;
    background: ${COLOUR.line};
  }
  &[data-grid] > * {
    border-left: 0;
    background: ${COLOUR.raised};
  }
`;

const Option = styled(ToggleButton)`
  ${touchable}
  flex: 1;
  padding: 0 10px;
  border: 0;
  border-left: 1px solid ${COLOUR.line};
  background: transparent;
  cursor: default;
  white-space: nowrap;
  &:first-child {
    border-left: 0;
  }
  &[data-hovered] {
    background: ${COLOUR.hover};
  }
  &[data-selected],
  [data-grid] > &[data-selected] {
    background: ${COLOUR.ink};
    color: ${COLOUR.raised};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: -3px;
    outline-color: ${COLOUR.act};
  }
  &[data-disabled] {
    color: ${COLOUR.line};
  }
`;

export interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly { readonly value: T; readonly label: string; readonly disabled?: boolean }[];
  /** two columns, where one row would be too long */
  readonly grid?: boolean;
  readonly onChange: (value: T) => void;
}

/** One of a few, all in sight. */
export function Choice<T extends string>({ label, value, options, grid, onChange }: ChoiceProps<T>) {
  const choose = (keys: Set<Key>): void => {
    const chosen = options.find((o) => keys.has(o.value));
    if (chosen && chosen.value !== value) onChange(chosen.value);
  };
  return (
    <Group
      aria-label={label}
      data-grid={grid ? '' : undefined}
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[value]}
      onSelectionChange={choose}
    >
      {options.map((o) => (
        <Option key={o.value} id={o.value} isDisabled={o.disabled}>
          {o.label}
        </Option>
      ))}
    </Group>
  );
}
