import { describe, expect, jest, test } from '@jest/globals';
import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type Project } from '@/core/recipe/project';
import { renderOnBench } from '@/tests/testBench';
import { sampleProject } from '@/tests/sampleProject';
import { addFrameLayer } from '@/store/edits/layers';
import { editsAt, type EditOwner } from '@/store/edits/list';
import { MatchPanel } from './Panel';
import { MatchTray } from './Tray';
import { ZoneLadder } from '../edits/zones/ZoneLadder';

const user = userEvent.setup();

/** Zones that are moved at a place. */
function zonesOf(project: Project, at: EditOwner) {
  const edit = editsAt(project, at).find((e) => e.kind === 'zones');
  return edit?.kind === 'zones' ? edit.settings.zones : [];
}

describe('the zone ladder', () => {
  test('every rung is a slider that arrow keys move by a tenth of a stop', async () => {
    const bench = renderOnBench(sampleProject(), <MatchPanel />);
    const whole = () => zonesOf(bench.store.getState().history.project, { kind: 'whole' });
    expect(screen.getAllByRole('slider').map((s) => s.getAttribute('aria-label'))).toEqual(
      expect.arrayContaining(['Black', 'Dark', 'Middle', 'Light', 'White point']),
    );
    act(() => screen.getByRole('slider', { name: 'Dark' }).focus());
    await user.keyboard('{ArrowRight}{ArrowRight}{Shift>}{ArrowRight}{/Shift}');
    const moved = () => whole().filter((z) => z.by !== 0);
    expect(moved()).toEqual([{ at: -3, by: 0.7 }]);
    // the other rungs hold their tones still
    expect(whole().map((z) => z.at)).toEqual([-6, -3, 0, 1.5, 2.4]);
    expect(screen.getByRole('slider', { name: 'Dark' })).toHaveAttribute(
      'aria-valuetext',
      '+0.7 EV at −3.0 EV',
    );
    await user.keyboard('{Home}');
    expect(moved()).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'All zones back' }));
    expect(whole()).toEqual([]);
  });

  test('a zone can be added between the rungs, and moves alone', async () => {
    const bench = renderOnBench(sampleProject(), <MatchPanel />);
    await user.click(screen.getByRole('button', { name: 'Add a zone' }));
    act(() => screen.getByRole('slider', { name: /^Zone/ }).focus());
    await user.keyboard('{ArrowLeft}');
    const zones = zonesOf(bench.store.getState().history.project, { kind: 'whole' });
    expect(zones).toHaveLength(6);
    expect(zones[1]).toEqual({ at: -4.5, by: -0.1 });
  });

  test('draws the histogram it is given', () => {
    const { container } = { container: document.body };
    renderOnBench(
      sampleProject(),
      <ZoneLadder
        zones={[]}
        tones={{ first: -10, shares: new Array<number>(39).fill(1 / 39) }}
        onChange={jest.fn()}
      />,
    );
    expect(container.querySelector('svg path')?.getAttribute('d')).toContain('v-50');
  });
});

describe('what is matched', () => {
  test('a set, a layer and the whole are changed each by itself', async () => {
    const project = sampleProject();
    const bench = renderOnBench(
      project,
      <>
        <MatchPanel />
        <MatchTray />
      </>,
    );
    act(() => bench.actions.go({ station: 'match' }));
    act(() => bench.actions.edit('layer', addFrameLayer('l', project.frames[2])));
    await user.click(screen.getByRole('button', { name: /Layer light/ }));
    await user.click(screen.getByRole('button', { name: /^Saturation/ }));
    const saturation = screen.getByRole('slider', { name: 'Saturation' });
    act(() => saturation.focus());
    await user.keyboard('{ArrowLeft}');
    const now = bench.store.getState().history.project;
    expect(editsAt(now, { kind: 'layer', id: 'l' })).toMatchObject([
      { kind: 'saturation', settings: { factor: 0.98 } },
    ]);
    expect(now.edits).toEqual(project.edits);
    expect(await screen.findByRole('button', { name: /Layer light.*saturation/i })).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: /^The set/ }));
    expect(bench.store.getState().session.target).toEqual({ kind: 'set', id: 'set' });
  });

  test('a patch is asked for with a tool that is put down again', async () => {
    const bench = renderOnBench(sampleProject(), <MatchPanel />);
    await user.click(screen.getByRole('button', { name: /^Neutral/ }));
    await user.click(screen.getByRole('button', { name: 'Sample what should be grey' }));
    expect(bench.store.getState().tool).toBe('patch');
    await user.click(screen.getByRole('button', { name: 'Press the patch on the picture' }));
    expect(bench.store.getState().tool).toBeUndefined();
  });
});
