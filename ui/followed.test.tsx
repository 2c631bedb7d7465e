import { act, render } from '@testing-library/react';
import { expect, test } from '@jest/globals';
import { startTransition } from 'react';
import { useFollowed } from './useFollowed';

function sourceOf<S>(first: S) {
  let state = first;
  const listeners = new Set<() => void>();
  return {
    get: () => state,
    set: (next: S) => {
      state = next;
      listeners.forEach((l) => l());
    },
    subscribe: (l: () => void) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    followers: () => listeners.size,
  };
}

const same = (a: { n: number }, b: { n: number }): boolean => a.n === b.n;

test('a component follows its part and is not drawn for another', () => {
  const source = sourceOf({ mine: 1, other: 1 });
  let drawn = 0;
  function Shown() {
    drawn++;
    return <>{useFollowed(source, (s) => s.mine)}</>;
  }
  const { container, unmount } = render(<Shown />);
  act(() => source.set({ mine: 2, other: 1 }));
  expect(container.textContent).toBe('2');
  const before = drawn;
  act(() => source.set({ mine: 2, other: 7 }));
  expect(drawn).toBe(before);
  unmount();
  expect(source.followers()).toBe(0);
});

test('what its props choose is shown at once, and later changes of it are followed', () => {
  const source = sourceOf<Record<string, number>>({ a: 1, b: 2 });
  function Shown({ of }: { of: string }) {
    return <>{useFollowed(source, (s) => s[of])}</>;
  }
  const { container, rerender } = render(<Shown of="a" />);
  rerender(<Shown of="b" />);
  expect(container.textContent).toBe('2');
  act(() => source.set({ a: 1, b: 3 }));
  expect(container.textContent).toBe('3');
});

test('a part that says the same stays the same object', () => {
  const source = sourceOf({ n: 1, at: 0 });
  const seen: unknown[] = [];
  function Shown() {
    const part = useFollowed(source, ({ n }) => ({ n }), same);
    seen.push(part);
    return <>{part.n}</>;
  }
  const { rerender } = render(<Shown />);
  act(() => source.set({ n: 1, at: 1 }));
  rerender(<Shown />);
  expect(new Set(seen).size).toBe(1);
});

test('a change between the drawing and the following is not missed, and one in a transition arrives', () => {
  const source = sourceOf(1);
  function Shown() {
    return <>{useFollowed(source, (n) => n)}</>;
  }
  function Racer() {
    // as a worker that answers while the page draws
    if (source.get() === 1) queueMicrotask(() => undefined);
    return <Shown />;
  }
  const { container } = render(<Racer />);
  act(() => startTransition(() => source.set(2)));
  expect(container.textContent).toBe('2');
  act(() => {
    startTransition(() => source.set(3));
    source.set(4);
  });
  expect(container.textContent).toBe('4');
});
