import { useRouter } from 'next/navigation';
import { useCallback, useMemo } from 'react';
import { useBenchParts, useActions } from '@/stations/benchContext';
import { benchCommands, type CommandParts } from './benchCommands';
import { type CommandFinderProps } from './CommandFinder';
import { editCommands } from './editCommands';

/** Everything that can be asked for by name: what the bench can always do, and what the picture holds now. */
export function useBenchCommands(parts: Omit<CommandParts, 'actions' | 'toShelf'>): CommandFinderProps {
  const { looks, set, goTo, nextLook, toggleZoom, toggleTrace, toggleEdit } = parts;
  const { bench } = useBenchParts();
  const actions = useActions();
  const router = useRouter();
  const commands = useMemo(() => {
    const toShelf = (): void => router.push('/');
    return benchCommands({
      ...{ actions, looks, set, goTo, nextLook, toggleZoom, toggleTrace, toggleEdit, toShelf },
    });
  }, [actions, goTo, looks, nextLook, router, set, toggleEdit, toggleTrace, toggleZoom]);
  const more = useCallback(() => {
    const { history, session } = bench.store.getState();
    return editCommands(history.project, session, actions);
  }, [actions, bench]);
  return { commands, more };
}
