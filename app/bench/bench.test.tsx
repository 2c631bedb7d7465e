import { describe, expect, jest, test } from '@jest/globals';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { emptyProject } from '@/core/recipe/emptyProject';
import { sampleDecoded, sampleFrame, sampleProject } from '@/tests/sampleProject';
import { benchOf, renderOnBench } from '@/tests/testBench';
import { CommandFinder } from './CommandFinder';
import { editCommands } from './editCommands';
import { useBeforeKey } from './useBeforeKey';
import { useEditKeys } from './useEditKeys';
import { findLayer } from '@/core/layers/layer';
import { addBeneath, addFrameLayer, removeLayer } from '@/store/edits/layers';
import { followable } from '@/ui/followable';
import { addEdit, newEdit } from '@/store/edits/list';
import { addPart } from '@/store/edits/regions';
import { looksOf } from '@/stations/looks';
import { LookBar } from './LookBar';
import { PlacedLine } from './PlacedLine';
import { Problems } from './Problems';
import { RecordButton } from './RecordButton';
import { Trail } from './Trail';
import { useBenchKeys } from './useBenchKeys';

const user = userEvent.setup();

const LOOKS = ['finished', 'before'] as const;

describe('the trail', () => {
  test('shows the worst finding of each station and where the user is', async () => {
    const onGo = jest.fn();
    renderOnBench(sampleProject(), <Trail onGo={onGo} />);
    const steps = screen.getAllByRole('button');
    expect(steps.map((s) => s.textContent)).toEqual([
      'Frameswidest spacing 2.00\u00a0EV1',
      'Fittypical error 0.05\u00a0px2',
      'Mergenot made yet3',
      'Layersnothing painted in4',
      'Matchnothing changed5',
      'Groundnothing put in6',
      'Finishnot made yet7',
      'Proofnot made yet8',
    ]);
    expect(steps[0]).toHaveAttribute('aria-current', 'step');
    expect(within(steps[1]).getByRole('img', { name: 'fine' })).toBeInTheDocument();
    await user.click(steps[1]);
    expect(onGo).toHaveBeenCalledWith('fit');
  });
});

describe('the look bar', () => {
  const bar = {
    options: looksOf('fit', 'bracket'),
    look: 'residual',
    zoom: 0.368,
    view: { kind: 'origin' },
    pointer: followable(undefined),
    greys: false,
  } as const;
  test('offers the views of its station once there is a picture', async () => {
    const onLook = jest.fn();
    const onGreys = jest.fn();
    const bench = renderOnBench(
      sampleProject(),
      <LookBar {...bar} onLook={onLook} onZoom={() => undefined} onGreys={onGreys} />,
    );
    expect(screen.queryByRole('radio')).not.toBeInTheDocument();
    act(() => bench.store.setState({ decoded: sampleDecoded() }));
    expect(screen.getAllByRole('radio').map((r) => r.textContent)).toEqual([
      'Residual',
      'Blink',
      'Wipe',
      'Frame',
    ]);
    expect(screen.getByText('37 %')).toBeInTheDocument();
    await user.click(screen.getByRole('radio', { name: 'Wipe' }));
    expect(onLook).toHaveBeenCalledWith('wipe');
    await user.click(screen.getByRole('button', { name: /^In greys/ }));
    expect(onGreys).toHaveBeenCalledTimes(1);
  });
  test('is empty before', () => {
    renderOnBench(
      emptyProject('e', 'E', '2026-01-01T00:00:00Z'),
      <LookBar {...bar} onLook={() => undefined} onZoom={() => undefined} onGreys={() => undefined} />,
    );
    expect(screen.queryByRole('radio')).not.toBeInTheDocument();
  });
});

describe('what went wrong', () => {
  test('stays until it is dismissed', async () => {
    const bench = renderOnBench(sampleProject(), <Problems />);
    act(() => bench.actions.report('“a.jpg” is empty.'));
    act(() => bench.actions.report('“b.jpg” is damaged.'));
    expect(screen.getByRole('alert')).toHaveTextContent('“a.jpg” is empty.');
    await user.click(screen.getAllByRole('button', { name: 'Dismiss' })[0]);
    expect(screen.getByRole('alert')).not.toHaveTextContent('“a.jpg”');
    expect(screen.getByRole('alert')).toHaveTextContent('“b.jpg” is damaged.');
  });
});

describe('where pictures went', () => {
  test('is said with its reason, and they can go elsewhere: each by itself is a layer', async () => {
    const bench = renderOnBench(sampleProject(), <PlacedLine />);
    expect(screen.queryByRole('status')).toBeNull();
    act(() =>
      bench.store.setState({
        placed: {
          frames: ['light'],
          destination: { kind: 'set', id: 'set' },
          why: 'they show what “Set 1” shows',
        },
      }),
    );
    expect(screen.getByRole('status')).toHaveTextContent(
      '“light.jpg” joined “Set 1”: they show what “Set 1” shows.',
    );
    await user.click(screen.getByRole('button', { name: 'By itself, as a layer' }));
    const { project } = bench.store.getState().history;
    expect(project.sets[0].frames).toEqual(['dark', 'mid']);
    expect(project.layers.map((l) => l.name)).toEqual(['Merge', 'light']);
    expect(screen.queryByRole('status')).toBeNull();
  });

  test('goes away once it was seen, or what came is taken back', async () => {
    const bench = renderOnBench(sampleProject(), <PlacedLine />);
    const tell = (frames: readonly string[]) =>
      act(() => bench.store.setState({ placed: { frames, destination: { kind: 'plates' }, why: 'so' } }));
    tell(['gone']);
    expect(screen.queryByRole('status')).toBeNull();
    tell(['light']);
    await user.click(screen.getByRole('button', { name: 'Well placed' }));
    expect(bench.store.getState().placed).toBeUndefined();
  });
});

describe('the record', () => {
  test('lists what was done, latest first, and can be searched', async () => {
    const bench = renderOnBench(sampleProject(), <RecordButton />);
    act(() => {
      bench.actions.note('Delivered mill.png');
      bench.actions.note('Exported mill.marsh.zip');
    });
    await user.click(screen.getByRole('button', { name: 'Record' }));
    expect(screen.getAllByRole('listitem').map((l) => l.textContent)).toEqual([
      expect.stringContaining('Exported'),
      expect.stringContaining('Delivered'),
    ]);
    await user.type(screen.getByRole('searchbox'), 'deliv');
    expect(screen.getAllByRole('listitem')).toHaveLength(1);
    await user.type(screen.getByRole('searchbox'), 'xyz');
    expect(screen.getByText('Nothing like that.')).toBeInTheDocument();
  });

  test('the picture is compared with what it was after any step that still stands', async () => {
    const bench = renderOnBench(sampleProject(), <RecordButton />);
    const at = { kind: 'whole' } as const;
    act(() => {
      bench.store.setState({ decoded: sampleDecoded() });
      bench.actions.go({ station: 'finish', look: 'finished' });
      bench.actions.edit('A frame over it', addFrameLayer('l1', sampleFrame('dark', -2)));
      bench.actions.edit('Lighter', addEdit(at, newEdit('e1', 'exposure', { stops: 1 })));
      bench.actions.edit('The frame away', removeLayer('l1'));
    });
    await user.click(screen.getByRole('button', { name: 'Record' }));
    // of the last step nothing is to be seen: that is the picture as it is
    const offered = screen.getAllByRole('button', { name: /^Compare with/ });
    expect(offered.map((b) => b.getAttribute('aria-label'))).toEqual([
      'Compare with the picture after “Lighter”',
      'Compare with the picture after “A frame over it”',
    ]);
    const looked = () => bench.store.getState().session;
    // nothing is merged here: what cannot be shown is said, and nothing else is shown in its place
    await user.click(offered[0]);
    expect(bench.store.getState().problems[0]).toMatch(/^The picture is still being made/);
    expect(looked()).toMatchObject({ look: 'finished', before: 'fit' });
    // what is compared is let go by the same button
    act(() => bench.actions.go({ look: 'before', before: 'then', then: 1 }));
    expect(offered[0]).toHaveAttribute('aria-pressed', 'true');
    await user.click(offered[0]);
    expect(looked()).toMatchObject({ look: 'finished', before: 'fit' });
  });
});

describe('keys and commands', () => {
  function Keys({ on }: { on: (what: string) => void }) {
    useBenchKeys({
      onStation: (s) => on(s),
      onUndo: () => on('undo'),
      onRedo: () => on('redo'),
      onZoom: () => on('zoom'),
      onNextLook: () => on('look'),
    });
    return (
      <>
        <input aria-label="field" />
        <input aria-label="box" type="checkbox" />
      </>
    );
  }

  test('work from anywhere but a field', async () => {
    const on = jest.fn();
    renderOnBench(sampleProject(), <Keys on={on} />);
    await user.keyboard(
      '37.v{Control>}z{/Control}{Control>}{Shift>}z{/Shift}{/Control}{Control>}y{/Control}9',
    );
    expect(on.mock.calls.map(([what]) => what)).toEqual([
      'merge',
      'finish',
      'zoom',
      'look',
      'undo',
      'redo',
      'redo',
    ]);
    await user.type(screen.getByLabelText('field'), '12.v');
    expect(on).toHaveBeenCalledTimes(7);
    // a box is not written in
    act(() => screen.getByLabelText('box').focus());
    await user.keyboard('5');
    expect(on).toHaveBeenLastCalledWith('match');
  });

  test('a command is found by part of its name', async () => {
    const run = jest.fn();
    const commands = [
      { id: 'a', name: 'Go to Fit', key: '2', run: () => undefined },
      { id: 'b', name: 'Take back', key: 'Ctrl Z', run },
    ];
    renderOnBench(sampleProject(), <CommandFinder commands={commands} />);
    await user.keyboard('f');
    expect(screen.getAllByRole('menuitem')).toHaveLength(2);
    await user.keyboard('back');
    expect(screen.getAllByRole('menuitem')).toHaveLength(1);
    await user.click(screen.getByRole('menuitem', { name: /Take back/ }));
    expect(run).toHaveBeenCalledTimes(1);
    expect(screen.queryByRole('dialog')).not.toBeInTheDocument();
  });

  test('what the picture holds is found by its name: edits, layers and parts; a part can be added', () => {
    const bench = benchOf(sampleProject());
    const { edit, go } = bench.actions;
    edit('Zones', addEdit({ kind: 'whole' }, newEdit('e1', 'exposure', { stops: 0.5 })));
    edit('Adjust', addBeneath('l1', 'Evening'));
    const settings = { x: 0.5, y: 0.3, across: 0.2, down: 0.1, turn: 0, soft: 0.5 };
    edit('Where', addPart({ kind: 'layer', layer: 'l1' }, 'add', { kind: 'ellipse', settings }));
    const commands = () => {
      const { history, session } = bench.store.getState();
      return editCommands(history.project, session, bench.actions);
    };
    const run = (name: string | RegExp): void => {
      const found = commands().filter((c) =>
        typeof name === 'string' ? c.name === name : name.test(c.name),
      );
      expect(found.map((c) => c.name)).toHaveLength(1);
      found[0].run();
    };
    expect(new Set(commands().map((c) => c.id)).size).toBe(commands().length);
    run('Exposure of the whole: +0.5 EV');
    expect(bench.store.getState().session).toMatchObject({
      station: 'match',
      target: { kind: 'whole' },
      edit: 'e1',
    });
    run(/^Where Layer Evening: /);
    expect(bench.store.getState().session).toMatchObject({
      station: 'layers',
      layer: 'l1',
      layerPart: 'where',
    });
    run('Add a part where Layer Evening: tones');
    const layer = findLayer(bench.store.getState().history.project.layers, 'l1');
    expect(typeof layer?.where === 'object' && layer.where.parts.map((p) => [p.how, p.part.kind])).toEqual([
      ['add', 'ellipse'],
      ['keep', 'tone'],
    ]);
    go({ layerPart: 'edits' });
    run('Change saturation of Layer Evening');
    expect(bench.store.getState().session).toMatchObject({ layerPart: 'edits', edit: 'saturation' });
    // no radiance map, no range to be pressed
    expect(commands().some((c) => c.id === 'change toneMap')).toBe(false);
    // nor is a place of a bracket taken from one frame by pointing
    expect(commands().some((c) => c.id.startsWith('from '))).toBe(false);
  });

  test('a mark for a match and a place from one frame are found by their names', () => {
    const bench = benchOf(sampleProject({ kind: 'moments' }));
    const run = (name: string): void => {
      const { history, session } = bench.store.getState();
      editCommands(history.project, session, bench.actions)
        .find((c) => c.name === name)
        ?.run();
    };
    run('What is known of a place of the whole: grey');
    expect(bench.store.getState()).toMatchObject({
      tool: 'mark grey',
      session: { station: 'match', edit: 'match' },
    });
    run('Take a place from frame 3');
    expect(bench.store.getState()).toMatchObject({
      tool: 'from light',
      session: { station: 'merge', look: 'fitted', frame: 'light' },
    });
  });

  test('held, the same key leaves the edit out for as long, and nothing of that is recorded', async () => {
    function Keys() {
      useEditKeys();
      useBeforeKey(LOOKS);
      return null;
    }
    const bench = renderOnBench(sampleProject(), <Keys />);
    act(() => {
      bench.actions.edit('Exposure', addEdit({ kind: 'whole' }, newEdit('e1', 'exposure', { stops: 0.5 })));
      bench.actions.go({ station: 'finish', look: 'finished', edit: 'e1' });
    });
    const looked = () => bench.store.getState().session;
    const { project } = bench.store.getState().history;
    await user.keyboard('{x>}');
    await waitFor(() => expect(looked()).toMatchObject({ look: 'before', before: 'edit' }));
    // a held key repeats
    fireEvent.keyDown(document.body, { key: 'x', repeat: true });
    await user.keyboard('{/x}');
    expect(looked()).toMatchObject({ look: 'finished', before: 'fit', edit: 'e1' });
    expect(bench.store.getState().history.project).toBe(project);
    await user.keyboard('{b>}');
    await waitFor(() => expect(looked().look).toBe('before'));
    await user.keyboard('{/b}');
    expect(looked().look).toBe('finished');
    // what was gone to meanwhile stays
    await user.keyboard('{b>}');
    await waitFor(() => expect(looked().look).toBe('before'));
    act(() => bench.actions.go({ station: 'proof', look: 'wipe' }));
    await user.keyboard('{/b}');
    expect(looked()).toMatchObject({ station: 'proof', look: 'wipe' });
    // tapped, they go by turns
    act(() => bench.actions.go({ station: 'finish', look: 'finished' }));
    await user.keyboard('b');
    expect(looked().look).toBe('before');
    await user.keyboard('b');
    expect(looked().look).toBe('finished');
  });

  test('one key switches the open edit off and on, another takes half of it', async () => {
    function Key() {
      useEditKeys();
      return null;
    }
    const bench = renderOnBench(sampleProject(), <Key />);
    const at = { kind: 'whole' } as const;
    act(() => {
      bench.actions.edit('Exposure', addEdit(at, newEdit('e1', 'exposure', { stops: 0.5 })));
      bench.actions.go({ station: 'finish', edit: 'e1' });
    });
    const isOn = () => bench.store.getState().history.project.edits.find((e) => e.id === 'e1')?.on;
    await user.keyboard('x');
    expect(isOn()).toBe(false);
    await user.keyboard('x');
    expect(isOn()).toBe(true);
    await user.keyboard('h');
    const edits = () => bench.store.getState().history.project.edits;
    expect(edits().find((e) => e.id === 'e1')?.amount).toBe(0.5);
    act(() => bench.actions.edit('m', addEdit(at, newEdit('m1', 'match'))));
    act(() => bench.actions.go({ edit: 'm1' }));
    await user.keyboard('h');
    // of a match its parts: a half of its map is still one map
    expect(edits().find((e) => e.id === 'm1')).toMatchObject({
      amount: 1,
      settings: { tone: 0.5, contrast: 0.5, colour: 0.5 },
    });
    act(() => bench.actions.go({ edit: '' }));
    await user.keyboard('x');
    expect(isOn()).toBe(true);
  });
});
