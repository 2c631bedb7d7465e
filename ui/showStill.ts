/** which picture of a canvas was asked for last */
const latest = new WeakMap<HTMLCanvasElement, object>();

/**
 * Puts a picture on a canvas whole. One that is drawn on is offered to the screen anew with every frame of the page, whether it changed or not;
 * one that was handed a picture is not.
 * @param canvas what was there stays where the browser cannot make the picture; gone or without a context: nothing is done
 * @param pixels R G B A, straight, `width * height * 4`
 */
export async function showStill(
  canvas: HTMLCanvasElement | null,
  pixels: Uint8ClampedArray<ArrayBuffer>,
  width: number,
  height: number,
): Promise<void> {
  const context = canvas?.getContext('bitmaprenderer');
  if (!canvas || !context) return;
  const mine = {};
  latest.set(canvas, mine);
  // a browser without memory for a small picture goes on without it
  const bitmap = await createImageBitmap(new ImageData(pixels, width, height)).catch(() => undefined);
  if (latest.get(canvas) !== mine) return bitmap?.close();
  if (!bitmap) return;
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
  context.transferFromImageBitmap(bitmap);
}
