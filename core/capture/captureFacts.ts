/** What the camera wrote about a shot; anything may be missing. */
export interface CaptureFacts {
  /** exposure time, seconds */
  readonly seconds?: number;
  /** f-number */
  readonly aperture?: number;
  readonly iso?: number;
  /** millimetres */
  readonly focalLength?: number;
  /** local time of the shot, `YYYY-MM-DDTHH:MM:SS` with optional fraction */
  readonly taken?: string;
  readonly camera?: string;
  readonly lens?: string;
  readonly whiteBalance?: 'auto' | 'set';
}

/** What is measured of a frame by itself when it arrives. */
export interface FrameMeasures {
  /** noise of the darks, codes of 255; undefined where the frame has none */
  readonly darkNoise?: number;
  /** 0…1, see sharpnessOf */
  readonly sharpness?: number;
}
