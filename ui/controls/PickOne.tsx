'use client';
import { ChevronDown } from 'lucide-react';
import { Button, Label, ListBox, ListBoxItem, Popover, Select, SelectValue } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, focusRing, touchable } from '../tokens';

const Line = styled(Select)`
  display: grid;
  grid-template-columns: 102px 1fr;
  align-items: center;
`;

const Open = styled(Button)`
  ${touchable}
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 0 9px;
  border: 1px solid ${COLOUR.control};
  border-radius: 3px;
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  &[data-focus-visible] {
    ${focusRing}
  }
  svg {
    width: 14px;
    height: 14px;
  }
`;

const List = styled(ListBox)`
  max-height: 330px;
  overflow-y: auto;
  min-width: 170px;
  padding: 3px;
  background: ${COLOUR.raised};
  border: 1px solid ${COLOUR.control};
  outline: none;
`;

const Item = styled(ListBoxItem)`
  padding: 4px 9px;
  outline: none;
  &[data-selected] {
    font-weight: 600;
  }
  &[data-focused] {
    background: ${COLOUR.act};
    color: ${COLOUR.onAct};
  }
  @media (pointer: coarse) {
    padding: 12px 9px;
  }
`;

export interface PickOneProps<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly { readonly value: T; readonly label: string }[];
  readonly onChange: (value: T) => void;
}

/** One of many, from a list that opens. */
export function PickOne<T extends string>({ label, value, options, onChange }: PickOneProps<T>) {
  const choose = (key: unknown): void => {
    const chosen = options.find((o) => o.value === key);
    if (chosen && chosen.value !== value) onChange(chosen.value);
  };
  return (
    <Line value={value} onChange={choose}>
      <Label>{label}</Label>
      <Open>
        <SelectValue>{options.find((o) => o.value === value)?.label}</SelectValue>
        <ChevronDown aria-hidden />
      </Open>
      <Popover>
        <List>
          {options.map((o) => (
            <Item key={o.value} id={o.value} textValue={o.label}>
              {o.label}
            </Item>
          ))}
        </List>
      </Popover>
    </Line>
  );
}
