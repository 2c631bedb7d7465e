import { describe, expect, jest, test } from '@jest/globals';
import { fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { emptyProject } from '@/core/recipe/emptyProject';
import { renderOnBench } from '@/tests/testBench';
import { StandInCamera } from './StandInCamera';

const user = userEvent.setup();

async function opened() {
  const bench = renderOnBench(emptyProject('e', 'Empty', '2026-01-01T00:00:00Z'), <StandInCamera />);
  await user.click(screen.getByRole('button', { name: 'Stand-in camera' }));
  const dialog = within(await screen.findByRole('dialog', { name: /a simulation/ }));
  const choose = async (what: RegExp, option: string): Promise<void> => {
    await user.click(dialog.getByRole('button', { name: what }));
    await user.click(screen.getByRole('option', { name: option }));
  };
  return { bench, dialog, choose };
}

jest.setTimeout(20_000);

describe('the stand-in camera', () => {
  test('shows what belongs to the plan, and a panorama is shot where there is marsh all round', async () => {
    const { dialog, choose } = await opened();
    expect(dialog.getByRole('slider', { name: 'Steps' })).toBeInTheDocument();
    expect(dialog.queryByRole('slider', { name: 'Overlap' })).toBeNull();
    await choose(/^Bracket/, 'Panorama');
    expect(dialog.getByRole('slider', { name: 'Overlap' })).toBeInTheDocument();
    // the steps of a bracket return with the second exposure of a view
    expect(dialog.queryByRole('slider', { name: 'Steps' })).toBeNull();
    fireEvent.change(dialog.getByRole('slider', { name: 'Exposures' }), { target: { value: '3' } });
    expect(dialog.getByRole('slider', { name: 'Steps' })).toBeInTheDocument();
    expect(dialog.getByRole('button', { name: /^The marsh all round/ })).toBeInTheDocument();
    expect(dialog.getByRole('slider', { name: 'Hour' })).toBeInTheDocument();
    expect(dialog.getByLabelText('Lamps lit')).toBeInTheDocument();
  });

  test('a near view takes a lens whose field it fills', async () => {
    const { dialog, choose } = await opened();
    await choose(/^The tide mill/, 'Mugs on a table');
    expect(dialog.getByRole('slider', { name: 'Lens' })).toHaveValue('60');
    await choose(/^Mugs on a table/, 'Samphire, close');
    expect(dialog.getByRole('slider', { name: 'Lens' })).toHaveValue('68');
  });

  test('offers movement before the mill only, and says what comes of it', async () => {
    const { dialog, choose } = await opened();
    await user.click(dialog.getByLabelText('Water moves, the warden walks by'));
    expect(dialog.getByText(/is he in the picture once/)).toBeInTheDocument();
    await choose(/^The tide mill/, 'Mugs on a table');
    expect(dialog.queryByLabelText('Water moves, the warden walks by')).toBeNull();
    expect(dialog.queryByText(/is he in the picture once/)).toBeNull();
  });

  test('says which fault it plants', async () => {
    const { dialog, choose } = await opened();
    await choose(/^None/, 'One frame unsharp');
    expect(dialog.getByText(/is focused too near on purpose/)).toBeInTheDocument();
  });
});
