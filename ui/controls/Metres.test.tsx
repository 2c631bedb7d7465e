import { expect, test } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Metres } from './Metres';

test('a length that is being typed stays as typed when another arrives', async () => {
  const heard: number[] = [];
  const field = (value: number) => (
    <Metres label="Its height" value={value} onChange={(metres) => heard.push(metres)} />
  );
  const { rerender } = render(field(2.94));
  const input = screen.getByRole('textbox', { name: 'Its height' });
  await userEvent.clear(input);
  await userEvent.type(input, '1.1');
  rerender(field(2.41));
  expect(input).toHaveValue('1.1');
  await userEvent.keyboard('{Enter}');
  expect(heard).toEqual([1.1]);
});

test('what arrives while nothing is typed is shown', async () => {
  const { rerender } = render(<Metres label="Its height" value={2.94} onChange={() => undefined} />);
  const input = screen.getByRole('textbox', { name: 'Its height' });
  await userEvent.click(input);
  rerender(<Metres label="Its height" value={1.5} onChange={() => undefined} />);
  expect(input).toHaveValue('1.5 m');
});
