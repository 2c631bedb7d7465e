import exifr from 'exifr';
import { type CaptureFacts } from '../../capture/captureFacts';
import { isRealDate } from '../../capture/realDate';
import { plainText } from '../../recipe/plainText';

/** Facts of the shot and how the picture lies in its file. */
export interface FileFacts {
  readonly facts: CaptureFacts;
  /** EXIF orientation 1…8 */
  readonly orientation: number;
}

/** A number above 0 that a camera can mean. */
const positive = (v: unknown, most: number): number | undefined =>
  typeof v === 'number' && v > 0 && v <= most ? v : undefined;

/** `2026:10:03 18:41:07` → `2026-10-03T18:41:07`; anything else is dropped. */
function isoTime(value: unknown, fraction: unknown): string | undefined {
  if (typeof value !== 'string') return undefined;
  const parts = /^(\d{4})[:-](\d\d)[:-](\d\d)[ T](\d\d:\d\d:\d\d)/.exec(value);
  if (!parts) return undefined;
  const sub = typeof fraction === 'string' && /^\d+/.exec(fraction.trim());
  const stamp = `${parts[1]}-${parts[2]}-${parts[3]}T${parts[4]}${sub ? `.${sub[0].slice(0, 9)}` : ''}`;
  // cameras without a clock write zeros
  return isRealDate(stamp) ? stamp : undefined;
}

const shortText = (v: unknown): string | undefined =>
  typeof v === 'string' ? plainText(v, 80) || undefined : undefined;

/** Reads EXIF 2.32 from a JPEG, PNG or TIFF file; damaged or absent metadata gives no facts, never an error. */
export async function readFacts(bytes: Uint8Array): Promise<FileFacts> {
  let tags: Record<string, unknown> | undefined;
  try {
    tags = (await exifr.parse(bytes, {
      reviveValues: false,
      translateValues: false,
      tiff: true,
      exif: true,
      gps: false,
      icc: false,
      xmp: false,
      iptc: false,
      jfif: false,
    })) as Record<string, unknown> | undefined;
  } catch {
    tags = undefined;
  }
  if (!tags) return { facts: {}, orientation: 1 };
  const iso = Array.isArray(tags.ISO) ? (tags.ISO as unknown[])[0] : tags.ISO;
  const shutter = typeof tags.ShutterSpeedValue === 'number' ? 2 ** -tags.ShutterSpeedValue : undefined;
  const found = {
    seconds: positive(tags.ExposureTime, 1e6) ?? positive(shutter, 1e6),
    aperture: positive(tags.FNumber, 1000),
    iso: positive(iso, 1e8),
    focalLength: positive(tags.FocalLength, 1e5),
    taken: isoTime(tags.DateTimeOriginal ?? tags.CreateDate ?? tags.ModifyDate, tags.SubSecTimeOriginal),
    camera: shortText(tags.Model),
    lens: shortText(tags.LensModel),
    whiteBalance: tags.WhiteBalance === 0 ? 'auto' : tags.WhiteBalance === 1 ? 'set' : undefined,
  };
  const facts = Object.fromEntries(Object.entries(found).filter(([, v]) => v !== undefined)) as CaptureFacts;
  const orientation = positive(tags.Orientation, 8) ?? 1;
  return { facts, orientation };
}
