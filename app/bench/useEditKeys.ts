import { useCallback } from 'react';
import { type Edit } from '@/core/edits/edit';
import { setEdit } from '@/store/edits/list';
import { openEditOf, targetOf } from '@/store/edits/openEdit';
import { useBenchParts } from '@/stations/benchContext';
import { EDITS_TEXT } from '@/stations/edits/text';
import { lookedAt } from './lookedAt';
import { useBenchKey, useHeldKey } from './useBenchKeys';

/** What the keys of the open edit do. */
export interface EditKeys {
  /** switches it off and on: what it does shows on the table at once */
  readonly toggle: () => void;
  /** takes half as much of it: of a match of each of its parts, of everything else of its amount */
  readonly halve: () => void;
}

/** x switches the edit whose line is open off and on, or leaves it out as long as it is held; h takes half of it. */
export function useEditKeys(): EditKeys {
  const { bench } = useBenchParts();
  const change = useCallback(
    (of: (edit: Edit) => { readonly label: string; readonly to: Parameters<typeof setEdit>[2] }) => {
      const state = bench.store.getState();
      const edit = openEditOf(state);
      if (!edit) return;
      const { label, to } = of(edit);
      bench.actions.edit(`${label}: ${EDITS_TEXT.names[edit.kind]}`, setEdit(targetOf(state), edit.id, to));
    },
    [bench],
  );
  const toggle = useCallback(
    () => change(({ on }) => ({ label: on ? 'Switched off' : 'Switched on', to: { on: !on } })),
    [change],
  );
  const halve = useCallback(() => change((edit) => ({ label: EDITS_TEXT.half, to: halved(edit) })), [change]);
  const leaveOut = useCallback(() => {
    const edit = openEditOf(bench.store.getState());
    return edit ? lookedAt(bench, { look: 'before', before: 'edit', edit: edit.id }) : () => undefined;
  }, [bench]);
  useHeldKey('x', toggle, leaveOut);
  useBenchKey('h', halve);
  return { toggle, halve };
}

function halved(edit: Edit): Parameters<typeof setEdit>[2] {
  if (edit.kind !== 'match') return { amount: edit.amount / 2 };
  const { tone, contrast, colour } = edit.settings;
  return { settings: { ...edit.settings, tone: tone / 2, contrast: contrast / 2, colour: colour / 2 } };
}
