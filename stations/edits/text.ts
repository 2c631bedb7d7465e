import { type EditKindName } from '@/core/edits/editKinds';

/** Words of edits, wherever they are made. */
export const EDITS_TEXT = {
  names: {
    neutral: 'Neutral',
    exposure: 'Exposure',
    toneMap: 'Range',
    zones: 'Zones',
    saturation: 'Saturation',
    noise: 'Less noise',
    sharpen: 'Sharpen',
  } satisfies Readonly<Record<EditKindName, string>>,
  unchanged: 'not changed',
  amount: 'How much',
  on: 'On',
  another: 'One more',
  remove: 'Take away',
  compare: 'Before and after',
  use: 'Use it at',
  where: 'Where',
  everywhere: 'everywhere',
  neutral: {
    sample: 'Sample what should be grey',
    sampling: 'Press the patch on the picture',
    hint: 'A bluer patch warms the picture, a warmer one cools it.',
    before: 'before',
    after: 'after',
  },
  zones: {
    label: 'Zone ladder',
    hint: 'Tones in above, tones out below, in stops from middle grey. Pull a rung, or move it by arrow keys.',
    add: 'Add a zone',
    reset: 'All zones back',
    rungs: ['Black', 'Dark', 'Middle', 'Light', 'White point'],
  },
  toneMap: { strength: 'Pressed by', detail: 'Local contrast' },
  noise: { measured: 'The merge has σ', hint: 'Half of what removes everything keeps a little grain.' },
  sharpen: {
    amount: 'Sharpen',
    radius: 'Radius',
    edge: 'Edges from',
    hint: 'Even areas such as skies are kept out; the view Edges hatches them. Sharpening comes last.',
  },
  owners: {
    whole: 'The whole',
    set: (name: string): string => name,
    layer: (name: string): string => `Layer ${name}`,
  },
} as const;
