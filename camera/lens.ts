/** A lens and the sensor behind it, as set for one frame. */
export interface Lens {
  /** nominal focal length, millimetres */
  readonly focalLength: number;
  /** width of the sensor, millimetres */
  readonly sensorWidth: number;
  /** f-number */
  readonly aperture: number;
  /** distance that is sharp, metres from the entrance pupil; Infinity allowed */
  readonly focus: number;
  /** growth of the picture at the nearest focus of 0.15 m against infinity, a share; focus breathing */
  readonly breathing: number;
  /** radial distortion at the half diagonal, a share; negative is barrel */
  readonly distortion: number;
  /** light lost at the half diagonal wide open, stops */
  readonly vignette: number;
  /** lateral colour error at the half diagonal: red grows and blue shrinks by this share */
  readonly lateral: number;
}

/** An ordinary full-frame lens without faults. */
export const PLAIN_LENS: Lens = {
  focalLength: 35,
  sensorWidth: 36,
  aperture: 8,
  focus: Infinity,
  breathing: 0,
  distortion: 0,
  vignette: 0,
  lateral: 0,
};

/** green light, millimetres */
const WAVELENGTH = 0.00055;
const NEAREST = 0.15;

/** Focal length in pixels of a frame `width` pixels wide, with what focusing changes. */
export function focalPixels(lens: Lens, width: number): number {
  const breathes = 1 + lens.breathing * Math.min(1, NEAREST / lens.focus);
  return (lens.focalLength / lens.sensorWidth) * width * breathes;
}

/** Angle of view across `size` of the sensor, degrees: 2·atan(size / 2f). */
export function fieldOfView(focalLength: number, size: number): number {
  return (360 / Math.PI) * Math.atan(size / (2 * focalLength));
}

/**
 * Diameter of the circle of confusion of a point, millimetres on the sensor, by the thin lens: A · |d − s| / d · f / (s − f) with the
 * opening A = f / N (any optics handbook). Negative when the point lies nearer than the sharp distance.
 * @param distance of the point, metres
 */
export function circleOfConfusion(lens: Lens, distance: number): number {
  const f = lens.focalLength;
  const opening = f / lens.aperture;
  const d = distance * 1000;
  const s = lens.focus * 1000;
  const magnifies = Number.isFinite(s) ? f / (s - f) : 0;
  return Number.isFinite(s) ? (opening * (d - s) * magnifies) / d : (-opening * f) / d;
}

/** Hyperfocal distance f² / (N·c) + f, metres; `confusion` in millimetres (any optics handbook). */
export function hyperfocal({ focalLength: f, aperture }: Lens, confusion: number): number {
  return (f + (f * f) / (aperture * confusion)) / 1000;
}

/** Standard deviation of the Gaussian nearest to the Airy pattern, 0.42·λ·N, in pixels of a frame `width` pixels wide. */
export function diffractionSigma({ aperture, sensorWidth }: Lens, width: number): number {
  return (0.42 * WAVELENGTH * aperture * width) / sensorWidth;
}

/**
 * Share of the light that reaches a place of the picture: optical vignetting, gone two stops down, times cos⁴ of nothing more, since
 * lenses for digital sensors are made telecentric.
 * @param radius 0 in the middle, 1 at the corner
 */
export function vignetteAt({ vignette, aperture }: Lens, radius: number): number {
  const open = Math.max(0.15, Math.min(1, 2.8 / aperture));
  return 2 ** (-vignette * open * radius * radius * (0.6 + 0.4 * radius * radius));
}
