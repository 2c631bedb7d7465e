'use client';
import { useMemo, useState } from 'react';
import {
  Autocomplete,
  Dialog,
  Input,
  Menu,
  MenuItem,
  Modal,
  ModalOverlay,
  SearchField,
  useFilter,
} from 'react-aria-components';
import { styled } from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { COLOUR, FONT, touchable } from '@/ui/tokens';
import { useBenchKey } from './useBenchKeys';

/** Something the user can ask for by name. */
export interface Command {
  readonly id: string;
  readonly name: string;
  /** the key that does the same, as it is written on it */
  readonly key?: string;
  readonly run: () => void;
}

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 10;
  display: flex;
  justify-content: center;
  align-items: flex-start;
  padding-top: 76px;
  background: rgba(27, 27, 26, 0.25);
`;

const Box = styled(Dialog)`
  width: min(520px, 92vw);
  background: ${COLOUR.raised};
  border: 1px solid ${COLOUR.control};
  outline: none;
`;

const Search = styled(Input)`
  width: 100%;
  height: 44px;
  padding: 0 14px;
  border: 0;
  border-bottom: 1px solid ${COLOUR.line};
  background: ${COLOUR.field};
  font-size: 15px;
  outline: none;
  &::-webkit-search-cancel-button {
    display: none;
  }
`;

const List = styled(Menu<Command>)`
  max-height: 50vh;
  overflow-y: auto;
  padding: 4px;
  outline: none;
`;

const Item = styled(MenuItem)`
  ${touchable}
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 0 10px;
  outline: none;
  kbd {
    font: 11px ${FONT.number};
    color: ${COLOUR.quiet};
  }
  &[data-focused] {
    background: ${COLOUR.act};
    color: ${COLOUR.onAct};
  }
  &[data-focused] kbd {
    color: ${COLOUR.onAct};
  }
`;

export interface CommandFinderProps {
  readonly commands: readonly Command[];
  /** those that come and go with the picture; asked for when the search opens */
  readonly more?: () => readonly Command[];
}

const NONE: readonly Command[] = [];

/** Finds any command by its name, opened with f; shows the key of each, so that it is also the list of keys. */
export function CommandFinder({ commands: lasting, more }: CommandFinderProps) {
  const [open, setOpen] = useState(false);
  const passing = useMemo(() => (open && more ? more() : NONE), [open, more]);
  const commands = useMemo(() => [...lasting, ...passing], [lasting, passing]);
  const { contains } = useFilter({ sensitivity: 'base' });
  useBenchKey('f', () => setOpen(true));
  const choose = (id: string): void => {
    setOpen(false);
    commands.find((c) => c.id === id)?.run();
  };
  return (
    <>
      <Button data-plain onPress={() => setOpen(true)}>
        Find a command
      </Button>
      <Veil isOpen={open} onOpenChange={setOpen} isDismissable>
        <Modal>
          <Box aria-label="Find a command">
            <Autocomplete filter={contains}>
              <SearchField
                aria-label="Command"
                autoFocus
                onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}
              >
                <Search placeholder="What do you want to do?" />
              </SearchField>
              <List items={commands} onAction={(id) => choose(String(id))} aria-label="Commands">
                {(command) => (
                  <Item id={command.id} textValue={command.name}>
                    <span>{command.name}</span>
                    {command.key && <kbd>{command.key}</kbd>}
                  </Item>
                )}
              </List>
            </Autocomplete>
          </Box>
        </Modal>
      </Veil>
    </>
  );
}
