import { describe, expect, jest, test } from '@jest/globals';
import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { judge } from '@/core/proof/finding';
import { renderOnBench } from '@/tests/testBench';
import { flat } from '@/tests/paint';
import { sampleProject } from '@/tests/sampleProject';
import { setPrintRegion } from '@/store/edits/geometry';
import { WatchPoints } from '../overlay/WatchPoints';
import { StepTray } from '../tray/StepTray';
import { ProofPanel } from './Panel';

const user = userEvent.setup();
const where = { x: 10, y: 20, width: 30, height: 40 };

describe('Proof', () => {
  test('says whether the picture is ready, and goes to what is not', async () => {
    const showPlace = jest.fn();
    const bench = renderOnBench(sampleProject(), <ProofPanel />, showPlace);
    expect(screen.getByText('There is nothing to prove before the merge.')).toBeInTheDocument();
    act(() => bench.store.setState({ proofed: { key: 'k', made: [judge('proof.black', 0)] } }));
    expect(screen.getByText('Nothing stands against it.')).toBeInTheDocument();
    act(() => bench.store.setState({ proofed: { key: 'k', made: [judge('proof.burnt', 9, { where })] } }));
    expect(screen.getByText('1 finding should be mended first.')).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Go to the first' }));
    expect(showPlace).toHaveBeenCalledWith(where, undefined);
    // what has no place is looked at where it was found
    act(() => bench.store.setState({ proofed: { key: 'k', made: [judge('fit.overlap', 9)] } }));
    await user.click(screen.getByRole('button', { name: 'Go to the first' }));
    expect(bench.store.getState().session).toMatchObject({ station: 'fit', look: 'residual' });
    act(() => bench.store.setState({ proofed: { key: 'k', made: [judge('proof.tilt', 9)] } }));
    expect(screen.queryByRole('button', { name: 'Go to the first' })).toBeNull();
  });

  test('places of findings are pinned, six at most, and taken away again', async () => {
    const bench = renderOnBench(
      sampleProject(),
      <>
        <ProofPanel />
        <WatchPoints finished />
      </>,
    );
    const made = [judge('proof.burnt', 9, { where }), judge('proof.black', 9, { where })];
    act(() => bench.store.setState({ proofed: { key: 'k', made } }));
    await user.click(screen.getByRole('button', { name: 'Pin the places of the findings' }));
    expect(await screen.findAllByRole('button', { name: /go there$/ })).toHaveLength(2);
    await user.click(screen.getByRole('button', { name: 'Take watch point 1 away' }));
    expect(bench.store.getState().history.project.watchPoints).toHaveLength(1);
  });

  test('the print region is drawn, and given up', async () => {
    const bench = renderOnBench(sampleProject(), <ProofPanel />);
    await user.click(screen.getByRole('button', { name: 'Draw the part that must print' }));
    expect(bench.store.getState().tool).toBe('print');
    act(() => bench.actions.edit('region', setPrintRegion(where)));
    await user.click(screen.getByRole('button', { name: 'Take the whole picture' }));
    expect(bench.store.getState().history.project.printRegion).toBeUndefined();
  });

  test('the picture is judged small, mirrored and in greys, beside what it was', async () => {
    const addresses = { createObjectURL: () => 'blob:earlier', revokeObjectURL: () => undefined };
    Object.assign(URL, addresses);
    const bench = renderOnBench(sampleProject(), <ProofPanel />);
    expect(screen.queryByText('With fresh eyes')).toBeNull();
    const image = flat(30, 20, 0.5);
    const finished = { key: 'k', image, findings: [], crop: { x: 0, y: 0, width: 30, height: 20 } };
    act(() => bench.store.setState({ finished: finished as never }));
    expect(screen.getByRole('img', { name: 'Now' })).toBeInTheDocument();
    // a project that was just begun was nothing before
    expect(screen.queryByRole('img', { name: 'When it was opened' })).toBeNull();
    act(() => bench.store.setState({ earlier: Uint8Array.of(255, 216) }));
    const earlier = screen.getByRole('img', { name: 'When it was opened' });
    expect(earlier).toHaveAttribute('src', 'blob:earlier');
    await user.click(screen.getByRole('checkbox', { name: 'Mirrored' }));
    expect(earlier).toHaveStyle({ transform: 'scaleX(-1)' });
    expect(screen.getByRole('img', { name: 'Now' })).toHaveStyle({ transform: 'scaleX(-1)' });
    await user.click(screen.getByRole('checkbox', { name: 'In greys' }));
    expect(earlier).toHaveStyle({ filter: 'grayscale(1)' });
    await user.click(screen.getByRole('checkbox', { name: 'Mirrored' }));
    expect(earlier).not.toHaveStyle({ transform: 'scaleX(-1)' });
  });

  test('every step can be laid beside the present picture', async () => {
    const bench = renderOnBench(sampleProject(), <StepTray />);
    await user.click(screen.getByRole('button', { name: /Merged/ }));
    expect(bench.store.getState().session).toMatchObject({ look: 'before', before: 'layers' });
    await user.click(screen.getByRole('button', { name: /Now/ }));
    expect(bench.store.getState().session.look).toBe('finished');
  });
});
