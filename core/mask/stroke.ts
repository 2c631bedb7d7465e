/** One sample of the pointer; `x`, `y` in fractions of the long edge of the reference from its top left corner, `pressure` 0…1. */
export type StrokePoint = readonly [x: number, y: number, pressure: number];

/** A brush stroke as it was drawn; true at every resolution. */
export interface Stroke {
  /** reveal shows the layer where it passes, hide takes it away */
  readonly action: 'reveal' | 'hide';
  /** diameter, fraction of the long edge */
  readonly size: number;
  /** share of the radius over which the brush fades out: 0 a hard edge, 1 soft from the centre */
  readonly softness: number;
  /** strength of one pass at full pressure, 0…1 */
  readonly flow: number;
  readonly points: readonly StrokePoint[];
  /** it covers only what it started on: the colours and the texture there, as far as they go over into each other along its way */
  readonly inside?: boolean;
}

/** The box of a stroke in fractions of the long edge, brush included. */
export function strokeBox(stroke: Pick<Stroke, 'points' | 'size'>): {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
} {
  const xs = stroke.points.map((p) => p[0]);
  const ys = stroke.points.map((p) => p[1]);
  const x = Math.min(...xs) - stroke.size / 2;
  const y = Math.min(...ys) - stroke.size / 2;
  return {
    x,
    y,
    width: Math.max(...xs) + stroke.size / 2 - x,
    height: Math.max(...ys) + stroke.size / 2 - y,
  };
}
