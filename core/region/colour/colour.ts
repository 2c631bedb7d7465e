import { oklabOf } from '../../colour/oklab';
import { between, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';
import { rangeOperator } from '../rangeOperator';
import { smoothRange, smoothStep } from '../smoothRange';
import { length2 } from '../../raster/length';

/** Colours about a hue of Oklab, as colourful as wished. */
export interface ColourSettings {
  /** degrees, 0…360 */
  readonly hue: number;
  /** degrees to either side that count in full */
  readonly width: number;
  /** degrees over which the hue fades out */
  readonly soft: number;
  /** chroma that counts in full, and the most; it fades out over a quarter of where it begins */
  readonly from: number;
  readonly to: number;
}

/** Angle between two hues, degrees, 0…180. */
export function hueDistance(a: number, b: number): number {
  const d = (((a - b) % 360) + 360) % 360;
  return Math.min(d, 360 - d);
}

const colourRange = rangeOperator<ColourSettings>('colourRange', 1, ({ hue, width, soft, from, to }) => {
  const fade = Math.max(0.005, from / 4);
  return (r, g, b) => {
    const [, A, B] = oklabOf(r, g, b);
    const chroma = length2(A, B);
    const off = hueDistance((Math.atan2(B, A) * 180) / Math.PI, hue);
    const near = smoothStep((width - off) / Math.max(1e-3, soft) + 1);
    return near * smoothRange(chroma, { from, to, soft: fade });
  };
});

export const colour: PartKind<ColourSettings> = {
  kind: 'colour',
  schema: strict({
    hue: between(0, 360),
    width: between(0, 180),
    soft: between(0, 180),
    from: between(0, 1),
    to: between(0, 2),
  }),
  plain: { hue: 240, width: 20, soft: 15, from: 0.03, to: 0.5 },
  says: ({ hue, width }) => `hues ${Math.round(hue)}° ± ${Math.round(width)}°`,
  operators: [colourRange],
  compile: (graph, settings, { picture }) =>
    picture ? graph.add('colourRange', settings, [picture]) : undefined,
};
