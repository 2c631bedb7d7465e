'use client';
import { Menu, MenuItem, Popover } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, touchable } from '../tokens';

const List = styled(Menu)`
  background: ${COLOUR.raised};
  border: 1px solid ${COLOUR.control};
  padding: 3px;
  outline: none;
  min-width: 220px;
  /* above or below its button there is room for so much, and half a line shows that there are more: one that lay over it would take the press that opens it */
  max-height: calc(50dvh - 78px);
  overflow-y: auto;
`;

const Item = styled(MenuItem)`
  ${touchable}
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 0 9px;
  outline: none;
  &[data-focused] {
    background: ${COLOUR.act};
    color: ${COLOUR.onAct};
  }
`;

export interface ActionListProps {
  readonly label: string;
  readonly items: readonly { readonly id: string; readonly name: string; readonly note: string }[];
  readonly onAction: (id: string) => void;
}

/** What a menu button offers: a name and a note a line. */
export function ActionList({ label, items, onAction }: ActionListProps) {
  return (
    <Popover placement="bottom start">
      <List aria-label={label} onAction={(key) => onAction(String(key))}>
        {items.map(({ id, name, note }) => (
          <Item key={id} id={id} textValue={name}>
            <span>{name}</span>
            <span>{note}</span>
          </Item>
        ))}
      </List>
    </Popover>
  );
}
