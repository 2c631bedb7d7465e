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
}
