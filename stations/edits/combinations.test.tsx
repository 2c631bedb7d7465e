import { expect, test } from '@jest/globals';
import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { addEdit, editsAt, newEdit } from '@/store/edits/list';
import { keptCombinations } from '@/store/combinations/keptCombinations';
import { sampleProject } from '@/tests/sampleProject';
import { renderOnBench } from '@/tests/testBench';
import { Combinations } from './Combinations';

const WHOLE = { kind: 'whole' } as const;

test('changes are kept under a name, made again by half, and forgotten', async () => {
  const user = userEvent.setup();
  const bench = renderOnBench({ ...sampleProject(), edits: [] }, <Combinations at={WHOLE} />);
  expect(screen.getByRole('button', { name: 'Keep these changes' })).toBeDisabled();
  act(() => bench.actions.edit('Exposure', addEdit(WHOLE, newEdit('a', 'exposure', { stops: 1 }))));
  await user.click(screen.getByRole('button', { name: 'Keep these changes' }));
  await user.type(screen.getByRole('textbox', { name: 'Its name' }), 'One stop');
  await user.click(screen.getByRole('button', { name: 'Keep the one change' }));
  expect(keptCombinations().map((c) => c.name)).toEqual(['One stop']);
  await user.click(screen.getByRole('button', { name: /^Make one here/ }));
  expect(screen.getAllByRole('menuitem')).toHaveLength(6);
  await user.click(screen.getByRole('menuitem', { name: /One stop/ }));
  const edits = () => editsAt(bench.store.getState().history.project, WHOLE);
  expect(edits().map((e) => [e.kind, e.amount])).toEqual([
    ['exposure', 1],
    ['exposure', 0.5],
  ]);
  act(() => bench.actions.undo());
  expect(edits()).toHaveLength(1);
  await user.click(screen.getByRole('button', { name: /^Forget one/ }));
  await user.click(screen.getByRole('menuitem', { name: 'One stop' }));
  expect(keptCombinations()).toEqual([]);
});
