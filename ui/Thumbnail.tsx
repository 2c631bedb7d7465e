'use client';
import { useLayoutEffect, useRef } from 'react';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { inTurn } from './inTurn';

/** The pixels of an image as a canvas wants them. */
function canvasPixels(
  context: CanvasRenderingContext2D,
  { width, height, data, white, alpha }: EncodedImage,
): ImageData {
  const pixels = context.createImageData(width, height);
  const scale = 255 / white;
  for (let i = 0, o = 0; i < data.length; i += 3, o += 4) {
    pixels.data[o] = data[i] * scale;
    pixels.data[o + 1] = data[i + 1] * scale;
    pixels.data[o + 2] = data[i + 2] * scale;
    // a cut-out keeps its opacity: behind it lie the colours of its rim
    pixels.data[o + 3] = alpha ? alpha[i] : 255;
  }
  return pixels;
}

/** A small picture drawn from decoded pixels. */
export function Thumbnail({ image, label }: { image: EncodedImage; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(
    () =>
      inTurn(() => {
        const context = canvas.current?.getContext('2d');
        context?.putImageData(canvasPixels(context, image), 0, 0);
      }),
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
