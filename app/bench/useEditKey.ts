import { useCallback } from 'react';
import { setEdit } from '@/store/edits/list';
import { useBenchParts } from '@/stations/benchContext';
import { EDITS_TEXT } from '@/stations/edits/text';
import { openEditOf } from '@/stations/edits/useOpenEdit';
import { targetOf } from '@/stations/edits/useTarget';
import { useBenchKey } from './useBenchKeys';

/** x switches the edit whose line is open off and on: what it does shows on the table at once. Gives what the key does. */
export function useEditKey(): () => void {
  const { bench } = useBenchParts();
  const toggle = useCallback(() => {
    const state = bench.store.getState();
    const edit = openEditOf(state);
    if (!edit) return;
    const name = EDITS_TEXT.names[edit.kind];
    bench.actions.edit(
      `${edit.on ? 'Switched off' : 'Switched on'}: ${name}`,
      setEdit(targetOf(state), edit.id, { on: !edit.on }),
    );
  }, [bench]);
  useBenchKey('x', toggle);
  return toggle;
}
