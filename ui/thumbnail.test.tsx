import { afterEach, expect, jest, test } from '@jest/globals';
import { render, waitFor } from '@testing-library/react';
import { emptyImage } from '@/core/raster/encodedImage';
import { Thumbnail } from './Thumbnail';

afterEach(() => void jest.restoreAllMocks());

test('a small picture keeps the opacity of a cut-out, and is solid without one', async () => {
  const drawn: unknown[] = [];
  Object.assign(globalThis, {
    ImageData: class {
      constructor(readonly data: Uint8ClampedArray) {}
    },
    createImageBitmap: ({ data }: { data: Uint8ClampedArray }) => Promise.resolve([...data]),
  });
  const context = { transferFromImageBitmap: (bitmap: unknown) => drawn.push(bitmap) };
  jest
    .spyOn(HTMLCanvasElement.prototype, 'getContext')
    .mockReturnValue(context as unknown as CanvasRenderingContext2D);
  const image = emptyImage(2, 1, 255);
  image.data.set([10, 20, 30, 40, 50, 60]);
  render(<Thumbnail image={image} label="solid" />);
  render(<Thumbnail image={{ ...image, alpha: Uint8Array.of(0, 0, 0, 200, 200, 200) }} label="cut out" />);
  await waitFor(() => expect(drawn).toHaveLength(2));
  expect(drawn).toEqual([
    [10, 20, 30, 255, 40, 50, 60, 255],
    [10, 20, 30, 0, 40, 50, 60, 200],
  ]);
});
