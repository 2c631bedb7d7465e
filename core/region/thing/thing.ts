import { array, mixed } from 'yup';
import { type Dab } from '../../cutout/dab';
import { operator } from '../../graph/operator';
import { sourceAt, type SampleSettings } from '../../graph/sample/samplePicture';
import { pictureOf } from '../../graph/wanted';
import { alphaImage } from '../../raster/encodedImage';
import { warpImage } from '../../raster/warp';
import { areNumbers, between, oneOf, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';
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

/** most dabs of one thing, and points of one dab */
export const MOST_DABS = 200;
export const MOST_DAB_POINTS = 1000;

const isPoint = (p: unknown): boolean => areNumbers(p, 2) && p.every((v) => Math.abs(v) <= 50);

export const thing: PartKind<ThingSettings> = {
  kind: 'thing',
  schema: strict({
    dabs: array(
      strict({
        is: oneOf(['this', 'not']),
        size: between(0, 2),
        points: mixed<Dab['points'][number][]>(
          (v): v is Dab['points'][number][] =>
            Array.isArray(v) && v.length > 0 && v.length <= MOST_DAB_POINTS && v.every(isPoint),
        ).required(),
      }),
    )
      .max(MOST_DABS)
      .required(),
  }),
  plain: { dabs: [] },
  says: ({ dabs }) =>
    dabs.length === 0
      ? 'nothing is pointed at yet'
      : `the thing under ${dabs.length} ${dabs.length === 1 ? 'dab' : 'dabs'}`,
  operators: [sampleCover],
  compile: (graph, settings, { source }) => {
    const cut = source?.cut(settings);
    return source && cut !== undefined
      ? graph.add('sampleCover', { matrix: source.matrix }, [cut])
      : undefined;
  },
};
