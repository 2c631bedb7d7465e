import { EDIT_KINDS } from '@/core/edits/editKinds';
import { type Combination } from './combination';

const { vignette, glow, detail, veil } = EDIT_KINDS;

/** What the shelf of combinations begins with: each is named by what it does. */
export const PLAIN_COMBINATIONS: readonly Combination[] = [
  {
    id: 'darks-up',
    name: 'Darks up, lights down by half a stop',
    edits: [
      {
        kind: 'zones',
        settings: {
          zones: [
            { at: -6, by: 0 },
            { at: -3, by: 0.5 },
            { at: 0, by: 0 },
            { at: 1.5, by: -0.5 },
            { at: 3, by: -0.5 },
          ],
        },
        amount: 1,
      },
    ],
  },
  {
    id: 'detail-up',
    name: 'Fine and broad detail up by a third',
    edits: [{ kind: 'detail', settings: { ...detail.plain, fine: 0.33, broad: 0.33 }, amount: 1 }],
  },
  {
    id: 'detail-out',
    name: 'Fine and middle detail smoothed',
    edits: [{ kind: 'detail', settings: { ...detail.plain, fine: -0.6, middle: -0.6 }, amount: 1 }],
  },
  {
    id: 'lights-glow',
    name: 'Lights glow, middle tones softened',
    edits: [
      { kind: 'glow', settings: { ...glow.plain, amount: 0.4 }, amount: 1 },
      { kind: 'veil', settings: { ...veil.plain, amount: 0.3 }, amount: 1 },
    ],
  },
  {
    id: 'warm-and-cool',
    name: 'Warm lights, cool darks, one stop less at the border',
    edits: [
      {
        kind: 'tint',
        settings: {
          points: [
            { at: -4, hue: 250, strength: 0.012 },
            { at: 1, hue: 65, strength: 0.014 },
          ],
        },
        amount: 1,
      },
      { kind: 'vignette', settings: { ...vignette.plain, stops: 1 }, amount: 1 },
    ],
  },
];
