import { describe, expect, test } from '@jest/globals';
import { act, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode } from 'react';
import { type TextureMatch as Found } from '@/core/match/texture/matchTexture';
import { BenchProvider } from '@/stations/benchContext';
import { addFrameLayer } from '@/store/edits/layers';
import { editsAt } from '@/store/edits/list';
import { isTextureMade, makeTextureAlike } from '@/store/matchTexture';
import { sampleProject } from '@/tests/sampleProject';
import { benchOf } from '@/tests/testBench';
import { EditForm } from './EditForm';
import { TextureMatch } from './TextureMatch';
import { useOpenEdit } from './useOpenEdit';

const user = userEvent.setup();
const LAYER = { kind: 'layer', id: 'l' } as const;

function made() {
  const project = sampleProject();
  const bench = benchOf(project);
  bench.actions.edit('layer', addFrameLayer('l', project.frames[2]));
  bench.actions.go({ station: 'match', target: LAYER });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <BenchProvider value={{ bench, viewer: bench.pool, showPlace: () => undefined }}>
      {children}
    </BenchProvider>
  );
  const kinds = () => editsAt(bench.store.getState().history.project, LAYER).map((e) => e.kind);
  return { bench, wrapper, kinds };
}

describe('grain and edges', () => {
  test('are made alike in one step, and what an earlier one has made goes', () => {
    const { bench, kinds } = made();
    const grain = { strength: 2, shape: new Array<number>(8).fill(1), size: 0.4, colour: 0.3 };
    const first: Found = { own: {}, other: {}, soften: 0.8, grain };
    const edits = () => editsAt(bench.store.getState().history.project, LAYER);
    expect(isTextureMade(edits(), first)).toBe(false);
    makeTextureAlike(bench, LAYER, first, 'alike');
    expect(kinds()).toEqual(['soften', 'grain']);
    // it is not offered again
    expect(isTextureMade(edits(), first)).toBe(true);
    expect(isTextureMade(edits(), { ...first, soften: 0.5 })).toBe(false);
    makeTextureAlike(bench, LAYER, { own: {}, other: {}, sharpen: { radius: 0.9, amount: 1 } }, 'alike');
    expect(kinds()).toEqual(['sharpen']);
    act(() => bench.actions.undo());
    expect(kinds()).toEqual(['soften', 'grain']);
  });

  test('of what is not shown yet say so', async () => {
    const { wrapper } = made();
    render(<TextureMatch at={LAYER} />, { wrapper });
    expect(screen.getByText('Measuring grain and edges.')).toBeVisible();
    await waitFor(() => expect(screen.getByText(/Show it on the picture/)).toBeVisible());
  });

  test('are set by hand as well', async () => {
    const { bench, wrapper } = made();
    function Forms() {
      return (
        <>
          <EditForm at={LAYER} kind="grain" edit={useOpenEdit()} />
          <EditForm at={{ kind: 'whole' }} kind="soften" edit={undefined} />
        </>
      );
    }
    act(() => bench.actions.go({ edit: 'grain' }));
    render(<Forms />, { wrapper });
    act(() => screen.getByRole('slider', { name: 'Strength' }).focus());
    await user.keyboard('{ArrowRight}{ArrowRight}');
    expect(editsAt(bench.store.getState().history.project, LAYER)).toMatchObject([
      { kind: 'grain', settings: { strength: 0.2 } },
    ]);
    act(() => screen.getByRole('slider', { name: 'Blur' }).focus());
    await user.keyboard('{ArrowRight}');
    expect(bench.store.getState().history.project.edits.at(-1)).toMatchObject({
      ...{ kind: 'soften', settings: { radius: 0.05 } },
    });
  });
});
