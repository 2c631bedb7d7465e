import { describe, expect, test } from '@jest/globals';
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode } from 'react';
import { findEdit } from '@/core/edits/ranked';
import { BenchProvider } from '@/stations/benchContext';
import { setKindOfEdit } from '@/store/edits/list';
import { sampleProject } from '@/tests/sampleProject';
import { benchOf } from '@/tests/testBench';
import { EditForm } from './EditForm';
import { useOpenEdit } from './useOpenEdit';
import { HueLadder } from './hues/HueLadder';

const user = userEvent.setup();
const WHOLE = { kind: 'whole' } as const;

/** The controls of an edit of the whole, on a bench, and what they have made of it. */
function formOf(kind: 'hues' | 'tint', settings?: object) {
  const bench = benchOf(sampleProject());
  if (settings) bench.actions.edit('begun', setKindOfEdit(WHOLE, kind, settings, 'e'));
  bench.actions.go({ station: 'match', edit: kind });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <BenchProvider value={{ bench, viewer: bench.pool, showPlace: () => undefined }}>
      {children}
    </BenchProvider>
  );
  function Form() {
    return <EditForm at={WHOLE} kind={kind} edit={useOpenEdit()} />;
  }
  render(<Form />, { wrapper });
  const edits = () => bench.store.getState().history.project.edits;
  return {
    hues: () => findEdit(edits(), 'hues')?.settings.hues,
    tint: () => findEdit(edits(), 'tint')?.settings.points,
  };
}

const two = { hues: [50, 140].map((at) => ({ at, turn: 0, chroma: 1, light: 0 })) };

describe('hues', () => {
  test('a rung turns by arrow keys and is the one whose amounts are shown', async () => {
    const { hues } = formOf('hues', two);
    act(() => screen.getByRole('slider', { name: 'Hue 140°' }).focus());
    await user.keyboard('{ArrowRight}{Shift>}{ArrowRight}{/Shift}');
    expect(hues()?.map((h) => h.turn)).toEqual([0, 6]);
    act(() => screen.getByRole('slider', { name: 'Colourfulness' }).focus());
    await user.keyboard('{ArrowLeft}');
    act(() => screen.getByRole('slider', { name: 'Lightness' }).focus());
    await user.keyboard('{ArrowRight}');
    expect(hues()).toEqual([
      { at: 50, turn: 0, chroma: 1, light: 0 },
      { at: 140, turn: 6, chroma: 0.98, light: 0.05 },
    ]);
    await user.click(screen.getByRole('button', { name: 'All hues back' }));
    expect(hues()).toEqual(two.hues);
  });

  test('one cannot be turned farther than the line says', async () => {
    const { hues } = formOf('hues', { hues: [{ at: 50, turn: 58, chroma: 1, light: 0 }] });
    act(() => screen.getByRole('slider', { name: 'Hue 50°' }).focus());
    await user.keyboard('{Shift>}{ArrowRight}{/Shift}');
    expect(hues()?.[0].turn).toBe(60);
  });

  test('says that it is still looking where nothing is made yet', () => {
    formOf('hues');
    expect(screen.getByText('Looking at the colours.')).toBeVisible();
  });

  test('the ring is cut open where there is least colour, so that no hue lies at its end', () => {
    const shares = Array.from({ length: 72 }, (_, i) => (i < 10 || i > 62 ? 1 / 19 : 0));
    const { container } = render(
      <HueLadder
        hues={[{ at: 0, turn: 0, chroma: 1, light: 0 }]}
        shares={shares}
        chosen={0}
        onChoose={() => undefined}
        onTurn={() => undefined}
      />,
    );
    const x = Number(container.querySelector('circle')?.getAttribute('cx'));
    expect(x).toBeGreaterThan(40);
    expect(x).toBeLessThan(280);
  });
});

describe('the tint line', () => {
  test('begins with cool darks and warm lights, none of either', async () => {
    const { tint } = formOf('tint');
    const [dark, light] = screen.getAllByRole('slider', { name: /^Tint at/ });
    expect(dark).toHaveAccessibleName('Tint at −4.0 EV, 250° 0.0');
    act(() => light.focus());
    act(() => screen.getByRole('slider', { name: 'Strength' }).focus());
    await user.keyboard('{ArrowRight}{ArrowRight}');
    expect(tint()).toEqual([
      { at: -4, hue: 250, strength: 0 },
      { at: 1, hue: 50, strength: 0.002 },
    ]);
  });

  test('a point moves along tone, comes and goes', async () => {
    const { tint } = formOf('tint', {
      points: [
        { at: -4, hue: 250, strength: 0.02 },
        { at: 1, hue: 250, strength: 0.02 },
      ],
    });
    await user.click(screen.getByRole('button', { name: 'Add a point' }));
    // where it comes the line is as it was
    expect(tint()?.[2]).toEqual({ at: -1.5, hue: 250, strength: 0.02 });
    act(() => screen.getByRole('slider', { name: /^Tint at −1.5/ }).focus());
    await user.keyboard('{ArrowRight}');
    expect(tint()?.[2].at).toBe(-1.4);
    await user.click(screen.getByRole('button', { name: 'Take it away' }));
    expect(tint()).toHaveLength(2);
  });
});
