import { useCallback } from 'react';
import { setEdit } from '@/store/edits/list';
import { useActions } from '@/stations/benchContext';
import { EDITS_TEXT } from '@/stations/edits/text';
import { useOpenEdit } from '@/stations/edits/useOpenEdit';
import { useTarget } from '@/stations/edits/useTarget';
import { useBenchKey } from './useBenchKeys';

/** x switches the edit whose line is open off and on: what it does shows on the table at once. Gives what the key does. */
export function useEditKey(): () => void {
  const actions = useActions();
  const at = useTarget();
  const edit = useOpenEdit();
  const toggle = useCallback(() => {
    if (!edit) return;
    const name = EDITS_TEXT.names[edit.kind];
    actions.edit(
      `${edit.on ? 'Switched off' : 'Switched on'}: ${name}`,
      setEdit(at, edit.id, { on: !edit.on }),
    );
  }, [actions, at, edit]);
  useBenchKey('x', toggle);
  return toggle;
}
