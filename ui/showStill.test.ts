import { expect, test } from '@jest/globals';
import { showStill } from './showStill';

test('of two pictures asked for one after the other the last stays, whichever is ready first', async () => {
  const made: { readonly ready: () => void }[] = [];
  const shown: number[] = [];
  let closed = 0;
  Object.assign(globalThis, {
    ImageData: class {
      constructor(readonly data: Uint8ClampedArray) {}
    },
    createImageBitmap: ({ data }: { data: Uint8ClampedArray }) =>
      new Promise((resolve) =>
        made.push({ ready: () => resolve({ value: data[0], close: () => (closed += 1) }) }),
      ),
  });
  const canvas = {
    ...{ width: 3, height: 2 },
    getContext: (kind: string) =>
      kind === 'bitmaprenderer'
        ? { transferFromImageBitmap: ({ value }: { value: number }) => shown.push(value) }
        : null,
  } as unknown as HTMLCanvasElement;
  const first = showStill(canvas, Uint8ClampedArray.of(1, 0, 0, 255), 1, 1);
  const second = showStill(canvas, Uint8ClampedArray.of(2, 0, 0, 255), 1, 1);
  made[1].ready();
  await second;
  made[0].ready();
  await first;
  expect(shown).toEqual([2]);
  expect(closed).toBe(1);
  expect([canvas.width, canvas.height]).toEqual([1, 1]);
});

test('what the browser cannot make leaves the canvas as it was, and breaks nothing', async () => {
  Object.assign(globalThis, { createImageBitmap: () => Promise.reject(new Error('no memory')) });
  const canvas = {
    ...{ width: 3, height: 2 },
    getContext: () => ({ transferFromImageBitmap: () => expect(true).toBe(false) }),
  } as unknown as HTMLCanvasElement;
  await showStill(canvas, Uint8ClampedArray.of(1, 0, 0, 255), 1, 1);
  expect([canvas.width, canvas.height]).toEqual([3, 2]);
});
