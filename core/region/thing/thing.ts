import { operator } from '../../graph/operator';
import { sourceAt, type SampleSettings } from '../../graph/sample/samplePicture';
import { pictureOf } from '../../graph/wanted';
import { alphaImage } from '../../raster/encodedImage';
import { warpImage } from '../../raster/warp';
import { strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';
import { dabs, dabsSay } from './dabs';
import { type ThingSettings } from './thingSettings';

/** How much of a thing that was cut out is there; nothing beyond the border of its picture. */
const sampleCover = operator<SampleSettings>({
  kind: 'sampleCover',
  version: 1,
  gives: 'mask',
  run: ([input], { matrix }, { level, area, kernel }) => {
    const { image, map } = sourceAt(pictureOf(input, 'what was cut out').levels, matrix, level);
    const cover = alphaImage(image);
    if (!cover) return { is: 'mask', plane: new Float32Array(area.width * area.height).fill(1) };
    const [plane] = warpImage(cover, map, area, kernel);
    for (let i = 0; i < plane.length; i++) plane[i] = Math.max(0, Math.min(1, plane[i]));
    return { is: 'mask', plane };
  },
});

export const thing: PartKind<ThingSettings> = {
  kind: 'thing',
  schema: strict({
    dabs: dabs(['this', 'not', 'edge']),
  }),
  plain: { dabs: [] },
  says: ({ dabs: drawn }) => dabsSay(drawn),
  operators: [sampleCover],
  compile: (graph, settings, { source }) => {
    const cut = source?.cut(settings);
    return source && cut !== undefined
      ? graph.add('sampleCover', { matrix: source.matrix }, [cut])
      : undefined;
  },
};
