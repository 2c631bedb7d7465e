import { beforeAll, expect, test } from '@jest/globals';
import { act, render } from '@testing-library/react';
import { type Edit } from '@/core/edits/edit';
import { type View, type ViewScene } from '@/core/view/viewScene';
import { sceneOf, sizedProject } from '@/tests/sampleScene';
import { flat } from '@/tests/paint';
import { type RenderArea } from './sheetLoader';
import { Table } from './Table';

beforeAll(() => {
  // jsdom measures and draws nothing
  Object.assign(HTMLCanvasElement.prototype, { getContext: () => null });
  Object.assign(globalThis, { ImageData: class {} });
  globalThis.ResizeObserver = class {
    constructor(private readonly told: ResizeObserverCallback) {}
    observe(): void {
      this.told([{ contentRect: { width: 200, height: 150 } } as ResizeObserverEntry], this);
    }
    unobserve(): void {}
    disconnect(): void {}
  };
});

const exposed = (stops: number): Edit => ({
  ...{ id: 'e', on: true, amount: 1 },
  ...{ kind: 'exposure', settings: { stops } },
});

const rested = () => new Promise((done) => setTimeout(done, 300));

test('a node is asked of no scene but one that has it: a change brings the scene first, and its views after', async () => {
  const drawn = (light: number): ViewScene =>
    sceneOf({ ...sizedProject(80, 60), edits: [exposed(light)] }, { merge: flat(80, 60, 0.5) }).scene;
  const [first, next] = [drawn(0.5), drawn(1)];
  const finished = (of: ViewScene): View => ({
    kind: 'node',
    node: of.picture?.finished ?? '',
    late: true,
  });
  let scene = first;
  const listeners = new Set<() => void>();
  const source = {
    get: () => ({ scene }),
    subscribe: (listener: () => void) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
  const failures: unknown[] = [];
  const fails = (thrown: unknown) => failures.push(thrown);
  const asked: boolean[] = [];
  const ask: RenderArea = (of, view) => {
    asked.push(view.kind === 'node' && of.picture?.nodes.has(view.node) === true);
    return Promise.resolve(new Uint8ClampedArray(4));
  };
  const table = (view: View) => (
    <Table
      label="Picture"
      source={source}
      view={view}
      viewport={undefined}
      onViewport={() => undefined}
      render={ask}
      onFailure={fails}
    />
  );
  const { rerender } = render(table(finished(first)));
  expect(finished(first)).not.toEqual(finished(next));
  await rested();
  await act(async () => {
    scene = next;
    for (const listener of listeners) listener();
    await rested();
  });
  rerender(table(finished(next)));
  await rested();
  expect(asked.length).toBeGreaterThan(1);
  expect(asked).not.toContain(false);
  expect(failures).toEqual([]);
});

/** A pointer event as jsdom lacks it. */
function pointer(type: string, pointerType: string, pointerId: number, x: number): Event {
  const event = new MouseEvent(type, { bubbles: true, button: 0, clientX: x, clientY: 50 });
  return Object.assign(event, { pointerType, pointerId, pressure: 0.5 });
}

test('a pen draws whatever hand lay on the table before it, and what that began is taken back', () => {
  const scene = sceneOf(sizedProject(80, 60), { merge: flat(80, 60, 0.5) }).scene;
  const told: string[] = [];
  const tool = {
    onStart: () => told.push('start'),
    onMove: () => told.push('move'),
    onEnd: () => told.push('end'),
    onCancel: () => told.push('cancel'),
  };
  const moved: unknown[] = [];
  const { getByRole } = render(
    <Table
      label="Picture"
      source={{ get: () => ({ scene }), subscribe: () => () => undefined }}
      view={{ kind: 'result' }}
      viewport={undefined}
      onViewport={(v) => moved.push(v)}
      render={() => new Promise(() => undefined)}
      tool={tool}
    />,
  );
  const surface = getByRole('application');
  Object.assign(surface, { setPointerCapture: () => undefined });
  const send = (...args: Parameters<typeof pointer>): void => {
    act(() => void surface.dispatchEvent(pointer(...args)));
  };
  send('pointerdown', 'touch', 1, 40);
  send('pointerdown', 'pen', 2, 90);
  send('pointermove', 'touch', 1, 60);
  send('pointermove', 'pen', 2, 95);
  send('pointerup', 'touch', 1, 60);
  send('pointerup', 'pen', 2, 95);
  expect(told).toEqual(['start', 'cancel', 'start', 'move', 'end']);
  expect(moved).toEqual([]);
  // two fingers move the picture, and take back what the first began
  told.length = 0;
  send('pointerdown', 'touch', 3, 40);
  send('pointerdown', 'touch', 4, 140);
  send('pointermove', 'touch', 4, 160);
  send('pointerup', 'touch', 4, 160);
  send('pointermove', 'touch', 3, 80);
  send('pointerup', 'touch', 3, 80);
  expect(told).toEqual(['start', 'cancel']);
  expect(moved).toHaveLength(1);
});
