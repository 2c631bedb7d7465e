import { tuple } from 'yup';
import { between, oneOf, share, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';
import { rangeOperator } from '../rangeOperator';
import { smoothRange } from '../smoothRange';
import { dabs, dabsSay } from '../thing/dabs';
import { type ThingSettings } from '../thing/thingSettings';
import { channelOf, CHANNELS } from './channels';
import { type Parting } from './partBy';

/** What dabs say apart, by the range that was found for it. Dabs are fractions of the picture's long edge. */
export interface PartedSettings extends ThingSettings, Parting {}

type Range = Pick<PartedSettings, 'channel' | 'weights' | 'from' | 'to' | 'soft'>;

const partedRange = rangeOperator<Range>('partedRange', 1, ({ channel, weights, ...range }) => {
  const of = channelOf(channel, weights);
  return (r, g, b) => smoothRange(of(r, g, b), range);
});

/** How each channel is called within a sentence. */
const NAMES = {
  tone: 'tone',
  red: 'red',
  green: 'green',
  blue: 'blue',
  greenRed: 'green against red',
  blueYellow: 'blue against yellow',
  chroma: 'colourfulness',
  mix: 'a mix of tone and colour',
} as const;

/** Whether dabs say both what is meant and what is not. */
export const isParted = ({ dabs: drawn }: ThingSettings): boolean =>
  drawn.some((d) => d.is === 'this') && drawn.some((d) => d.is === 'not');

const percent = (v: number): string => `${Math.round(100 * v)} %`;

/** What parts them, and how well, a sentence. */
export const partingSays = ({ channel, overlap, byTone }: Parting): string =>
  `${NAMES[channel][0].toUpperCase()}${NAMES[channel].slice(1)} parts them: ${percent(overlap)} overlap${
    channel === 'tone' ? '' : `; tone alone ${percent(byTone)}`
  }.`;

export const parted: PartKind<PartedSettings> = {
  kind: 'parted',
  schema: strict({
    dabs: dabs(),
    channel: oneOf(CHANNELS),
    weights: tuple([between(-1, 1), between(-1, 1), between(-1, 1)]).required(),
    from: between(-1e4, 1e4),
    to: between(-1e4, 1e4),
    soft: between(0, 1e4),
    overlap: share(),
    byTone: share(),
  }),
  plain: {
    ...{ dabs: [], channel: 'tone', weights: [1, 0, 0] },
    ...{ from: -1000, to: 1000, soft: 0.5, overlap: 0, byTone: 0 },
  },
  says: (settings) =>
    isParted(settings) ? `${NAMES[settings.channel]} tells it apart` : dabsSay(settings.dabs),
  operators: [partedRange],
  compile: (graph, settings, { picture }) => {
    if (!picture || !isParted(settings)) return undefined;
    const { channel, weights, from, to, soft } = settings;
    return graph.add('partedRange', { channel, weights, from, to, soft }, [picture]);
  },
};
