import { useRouter } from 'next/navigation';
import { useCallback, useMemo } from 'react';
import { useBenchParts, useActions } from '@/stations/benchContext';
import { benchCommands, type CommandParts } from './benchCommands';
import { type CommandFinderProps } from './CommandFinder';
import { editCommands } from './editCommands';

/** Everything that can be asked for by name: what the bench can always do, and what the picture holds now. */
export function useBenchCommands(parts: Omit<CommandParts, 'actions' | 'toShelf'>): CommandFinderProps {
  const { looks, set, goTo, nextLook, toggleZoom, toggleTrace, toggleEdit, halveEdit, toggleGreys } = parts;
  const { bench } = useBenchParts();
  const actions = useActions();
  const router = useRouter();
  const commands = useMemo(() => {
    const toShelf = (): void => router.push('/');
    return benchCommands({
      ...{ actions, looks, set, goTo, nextLook, toggleZoom, toggleTrace, toShelf },
      ...{ toggleEdit, halveEdit, toggleGreys },
    });
  }, [
    actions,
    goTo,
    halveEdit,
    looks,
    nextLook,
    router,
    set,
    toggleEdit,
    toggleGreys,
    toggleTrace,
    toggleZoom,
  ]);
  const more = useCallback(() => {
    const { history, session } = bench.store.getState();
    return editCommands(history.project, session, actions);
  }, [actions, bench]);
  return { commands, more };
}
