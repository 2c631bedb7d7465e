'use client';
import { useLayoutEffect, useRef } from 'react';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { inTurn } from './inTurn';
import { showStill } from './showStill';

/** The pixels of an image as a canvas wants them. */
function canvasPixels({ width, height, data, white, alpha }: EncodedImage): Uint8ClampedArray<ArrayBuffer> {
  const pixels = new Uint8ClampedArray(4 * width * height);
  const scale = 255 / white;
  for (let i = 0, o = 0; i < data.length; i += 3, o += 4) {
    pixels[o] = data[i] * scale;
    pixels[o + 1] = data[i + 1] * scale;
    pixels[o + 2] = data[i + 2] * scale;
    // a cut-out keeps its opacity: behind it lie the colours of its rim
    pixels[o + 3] = alpha ? alpha[i] : 255;
  }
  return pixels;
}

/** A small picture drawn from decoded pixels. */
export function Thumbnail({ image, label }: { image: EncodedImage; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(
    () => inTurn(() => void showStill(canvas.current, canvasPixels(image), image.width, image.height)),
    [image],
  );
  return (
    <canvas
      ref={canvas}
      width={image.width}
      height={image.height}
      role="img"
      aria-label={label}
      data-cut={image.alpha ? '' : undefined}
    />
  );
}
