import { type EditKindName, type EditSettings } from '@/core/edits/editKinds';
import { type LightDirection } from '@/core/ground/light';
import { type Part, type RegionPart } from '@/core/region/region';

/** Where a change is made: parts one after the other, as fractions of the picture's long edge. */
export interface FinishRegion {
  readonly name: string;
  readonly parts: readonly RegionPart[];
  readonly feather?: number;
  readonly follow?: number;
}

/** A change of the light, colour or detail. */
export interface EditStep {
  readonly does: 'edit';
  readonly says: string;
  readonly kind: EditKindName;
  readonly settings: object;
  readonly where?: FinishRegion;
  /** the cut-out that it is made to; to the whole picture when absent */
  readonly of?: string;
}

/** A cut-out put where it stands, and made to belong there; lengths are fractions of the picture's long edge. */
export interface PlateStep {
  readonly does: 'stand';
  readonly file: string;
  readonly foot: readonly [x: number, y: number];
  readonly height: number;
}

/** The sun that everything stands in. */
export interface SunStep {
  readonly does: 'sun';
  readonly says: string;
  readonly to: LightDirection;
}

/** A cut-out that does not fit. */
export interface HideStep {
  readonly does: 'hide';
  readonly file: string;
}

export type FinishStep = EditStep | PlateStep | SunStep | HideStep;

/** A change with the settings of its kind. */
function edit<K extends EditKindName>(
  says: string,
  kind: K,
  settings: EditSettings[K],
  where?: FinishRegion,
): EditStep {
  return { does: 'edit', says, kind, settings, where };
}

const part = (how: RegionPart['how'], own: Part): RegionPart => ({ how, part: own, turned: false, on: true });

/** From full at the upper edge to nothing at a height, but not about a place that shines. */
const above = (y: number, sun?: readonly [x: number, y: number, size: number]): FinishRegion => ({
  name: 'Sky',
  parts: [
    part('add', { kind: 'gradient', settings: { x0: 0.5, y0: 0, x1: 0.5, y1: y } }),
    ...(sun
      ? [
          part('remove', {
            kind: 'ellipse',
            settings: { x: sun[0], y: sun[1], across: sun[2], down: sun[2], turn: 0, soft: 1 },
          }),
        ]
      : []),
  ],
});

/** From nothing at one height to full at a lower one. */
const below = (from: number, to: number): FinishRegion => ({
  name: 'Foreground',
  parts: [part('add', { kind: 'gradient', settings: { x0: 0.5, y0: to, x1: 0.5, y1: from } })],
});

/** Darks moved by stops, middle grey and lights held or moved too. */
const tones = (darks: number, lights = 0, middle = 0): EditSettings['zones'] => ({
  zones: [
    { at: -7, by: 0.3 * darks },
    { at: -3.5, by: darks },
    { at: 0, by: middle },
    { at: 2, by: lights },
  ],
});

/** Lights turned to one hue, darks to another. */
const lightsAndDarks = (
  lights: readonly [hue: number, strength: number],
  darks: readonly [hue: number, strength: number],
): EditSettings['tint'] => ({
  points: [
    { at: -4, hue: darks[0], strength: darks[1] },
    { at: 1, hue: lights[0], strength: lights[1] },
  ],
});

/** What is done to each demo set to make a picture of it, by the set's id. */
export const FINISHES: Readonly<Record<string, readonly FinishStep[]>> = {
  bracket: [
    edit(
      'The sky a stop down, but not about the sun',
      'exposure',
      { stops: -1 },
      above(0.34, [0.07, 0.2, 0.3]),
    ),
    edit('Darks opened', 'zones', tones(0.5, -0.15)),
    edit('Grass and water made crisp', 'detail', { fine: 0.35, middle: 0.25, broad: 0 }, below(0.33, 0.5)),
    edit('Lights warm, darks cool', 'tint', lightsAndDarks([65, 0.008], [265, 0.012])),
    edit('Lamps and windows glow', 'glow', { amount: 0.3, from: 1.5, reach: 90, warmth: 0.3 }),
    edit('Light falls off round the mill', 'vignette', {
      x: 0.62,
      y: 0.3,
      across: 0.42,
      down: 0.3,
      stops: 0.9,
      inner: 0,
    }),
    edit('Sharpened for the screen', 'sharpen', { radius: 1, amount: 0.5, edge: 0.25 }),
  ],
  panorama: [
    edit('The land opened', 'zones', tones(1.8, 0, 1), below(0.16, 0.21)),
    edit('The sky half a stop down', 'exposure', { stops: -0.4 }, above(0.17, [0.37, 0.14, 0.2])),
    edit('Clouds and reeds shaped', 'detail', { fine: 0.2, middle: 0.3, broad: 0.2 }),
    edit('Lights warm, darks cool', 'tint', lightsAndDarks([70, 0.012], [265, 0.01])),
    edit('The sun and the windows glow', 'glow', { amount: 0.35, from: 1.5, reach: 140, warmth: 0.3 }),
  ],
  column: [
    edit('Darks opened', 'zones', tones(0.8, 0, 0.5), below(0.5, 0.75)),
    edit('Wall and grass shaped', 'detail', { fine: 0.25, middle: 0.4, broad: 0.3 }),
    edit('Lights warm, darks cool', 'tint', lightsAndDarks([65, 0.006], [265, 0.012])),
    edit('Lamps and windows glow', 'glow', { amount: 0.3, from: 1.5, reach: 70, warmth: 0.3 }),
    edit('Sharpened for the screen', 'sharpen', { radius: 1, amount: 0.4, edge: 0.25 }),
  ],
  focus: [
    edit('Lavender and grass opened', 'zones', tones(0.9, 0.2, 0.9), below(0.2, 0.4)),
    edit('A third of a stop more', 'exposure', { stops: 0.35 }, below(0.2, 0.4)),
    edit('Stems made crisp', 'detail', { fine: 0.4, middle: 0.5, broad: 0.4 }, below(0.2, 0.4)),
    edit('Lights warm, darks cool', 'tint', lightsAndDarks([65, 0.006], [265, 0.01])),
    edit('Windows glow', 'glow', { amount: 0.35, from: 1, reach: 80, warmth: 0.3 }),
  ],
  'focus-two': [
    edit('Middle tones opened', 'zones', tones(0.2, 0.7, 0.9)),
    edit('More colour', 'saturation', { factor: 1.12 }),
    edit('Stems made crisp', 'detail', { fine: 0.2, middle: 0.3, broad: 0.2 }),
    edit('Light falls off round the plant', 'vignette', {
      x: 0.5,
      y: 0.3,
      across: 0.35,
      down: 0.3,
      stops: 1,
      inner: 0,
    }),
  ],
  moments: [
    edit('Darks opened', 'zones', tones(1.5, 0, 0.6), below(0.25, 0.42)),
    edit(
      'The sky half a stop down, but not about the sun',
      'exposure',
      { stops: -0.5 },
      above(0.32, [0.07, 0.22, 0.28]),
    ),
    edit('Lights warm, darks cool', 'tint', lightsAndDarks([65, 0.006], [265, 0.012])),
    edit('Lamps and windows glow', 'glow', { amount: 0.35, from: 1.2, reach: 80, warmth: 0.3 }),
  ],
  lamp: [
    edit('Darks opened', 'zones', tones(1.3, 0, 0.5), below(0.28, 0.45)),
    edit('Lights warm, darks cool', 'tint', lightsAndDarks([65, 0.006], [265, 0.012])),
    edit('Lamps and windows glow', 'glow', { amount: 0.3, from: 1.2, reach: 80, warmth: 0.3 }),
  ],
  swap: [
    edit('The grass opened', 'zones', tones(0.9, 0, 0.6), below(0.3, 0.45)),
    edit('Grass and boards shaped', 'detail', { fine: 0.2, middle: 0.4, broad: 0.3 }, below(0.15, 0.4)),
    edit('Lights warm, darks cool', 'tint', lightsAndDarks([65, 0.004], [265, 0.014])),
    edit('The lantern and the windows glow', 'glow', { amount: 0.4, from: 1.2, reach: 70, warmth: 0.35 }),
  ],
  developments: [
    edit('A softer light', 'zones', tones(0.4, -0.3, 0.15)),
    edit('The enamel’s gloss', 'detail', { fine: 0.1, middle: 0.25, broad: 0.1 }),
    edit('Light falls off round the mugs', 'vignette', {
      x: 0.5,
      y: 0.38,
      across: 0.4,
      down: 0.3,
      stops: 0.8,
      inner: 0.1,
    }),
  ],
  plates: [
    { does: 'hide', file: 'walker.png' },
    { does: 'hide', file: 'cloud.png' },
    { does: 'hide', file: 'moon.png' },
    { does: 'hide', file: 'boat.png' },
    { does: 'stand', file: 'heron.png', foot: [0.6, 0.5], height: 0.16 },
    { ...edit('The heron a stop down', 'exposure', { stops: -0.9 }), of: 'heron.png' },
    { does: 'sun', says: 'The sun to where it stands in the picture', to: { azimuth: -30, elevation: 8 } },
    edit('Darks opened', 'zones', tones(1.4, 0, 0.6), below(0.25, 0.42)),
    edit('Lights warm, darks cool', 'tint', lightsAndDarks([65, 0.006], [265, 0.012])),
    edit('Lamps and windows glow', 'glow', { amount: 0.35, from: 1.2, reach: 80, warmth: 0.3 }),
  ],
  night: [
    edit('The sky between the stars held dark', 'zones', {
      zones: [
        { at: -6, by: -1 },
        { at: -2.5, by: -1 },
        { at: 0, by: 0.8 },
        { at: 3, by: 1 },
      ],
    }),
    edit('The horizon’s haze a stop down', 'exposure', { stops: -1 }, below(0.25, 0.62)),
    edit('The sky turned from brown to blue', 'tint', lightsAndDarks([250, 0.004], [265, 0.02])),
    edit('Clouds of stars shaped', 'detail', { fine: 0, middle: 0.3, broad: 0.8 }),
    edit('The brightest stars shine', 'glow', { amount: 0.4, from: 1, reach: 12, warmth: -0.2 }),
  ],
};
