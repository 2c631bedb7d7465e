import { strToU8, zipSync } from 'fflate';
import { type BlendMode } from '../../layers/blendMode';
import { type EncodedImage } from '../../raster/encodedImage';
import { halveImage } from '../../raster/halveImage';
import { encodeAlphaPng, encodePng } from './encodePng';
import { xmlText } from './xmlText';

/** A layer with its own pixels, R G B A of 8 bits, straight alpha, of the picture's size. */
export interface RasterLayer {
  readonly name: string;
  readonly data: Uint8Array;
  readonly opacity: number;
  readonly blend: BlendMode;
  readonly visible: boolean;
}

const operator = (blend: BlendMode): string => (blend === 'normal' ? 'svg:src-over' : `svg:${blend}`);

const THUMBNAIL = 256;

/** Writes a layered OpenRaster file (baseline 0.0.5): the layers, bottom first here, and the merged picture beside them. */
export async function encodeOpenRaster(
  layers: readonly RasterLayer[],
  merged: EncodedImage,
): Promise<Uint8Array> {
  const { width, height } = merged;
  const entries = layers.map((layer, i) => ({ layer, path: `data/layer${i}.png` }));
  const stack = [
    `<?xml version="1.0" encoding="UTF-8"?>`,
    `<image version="0.0.5" w="${width}" h="${height}"><stack>`,
    // the topmost comes first
    ...entries
      .slice()
      .reverse()
      .map(
        ({ layer, path }) =>
          `<layer name="${xmlText(layer.name)}" src="${path}" x="0" y="0" opacity="${layer.opacity.toFixed(4)}" visibility="${layer.visible ? 'visible' : 'hidden'}" composite-op="${operator(layer.blend)}"/>`,
      ),
    `</stack></image>`,
  ].join('');
  let small = merged;
  while (Math.max(small.width, small.height) > THUMBNAIL) small = halveImage(small);
  return zipSync({
    // readers look for it first, unpacked
    mimetype: [strToU8('image/openraster'), { level: 0 }],
    'stack.xml': strToU8(stack),
    'mergedimage.png': [await encodePng(merged), { level: 0 }],
    'Thumbnails/thumbnail.png': [await encodePng(small), { level: 0 }],
    ...Object.fromEntries(
      entries.map(({ layer, path }) => [path, [encodeAlphaPng(layer.data, width, height), { level: 0 }]]),
    ),
  });
}
