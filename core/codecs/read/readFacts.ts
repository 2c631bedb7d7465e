import exifr from 'exifr';
import { type CaptureFacts } from '../../capture/captureFacts';

/** Facts of the shot and how the picture lies in its file. */
export interface FileFacts {
  readonly facts: CaptureFacts;
  /** EXIF orientation 1…8 */
  readonly orientation: number;
}

const positive = (v: unknown): number | undefined =>
  typeof v === 'number' && Number.isFinite(v) && v > 0 ? v : undefined;

/** `2026:10:03 18:41:07` → `2026-10-03T18:41:07`; anything else is dropped. */
function isoTime(stamp: unknown, fraction: unknown): string | undefined {
  if (typeof stamp !== 'string') return undefined;
  const parts = /^(\d{4})[:-](\d\d)[:-](\d\d)[ T](\d\d:\d\d:\d\d)/.exec(stamp);
  if (!parts) return undefined;
  const sub = typeof fraction === 'string' && /^\d+/.exec(fraction.trim());
  return `${parts[1]}-${parts[2]}-${parts[3]}T${parts[4]}${sub ? `.${sub[0]}` : ''}`;
}

const shortText = (v: unknown): string | undefined =>
  typeof v === 'string' && v.trim() ? v.trim().slice(0, 80) : undefined;

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
    seconds: positive(tags.ExposureTime) ?? positive(shutter),
    aperture: positive(tags.FNumber),
    iso: positive(iso),
    focalLength: positive(tags.FocalLength),
    taken: isoTime(tags.DateTimeOriginal ?? tags.CreateDate ?? tags.ModifyDate, tags.SubSecTimeOriginal),
    camera: shortText(tags.Model),
    lens: shortText(tags.LensModel),
    whiteBalance: tags.WhiteBalance === 0 ? 'auto' : tags.WhiteBalance === 1 ? 'set' : undefined,
  };
  const facts = Object.fromEntries(Object.entries(found).filter(([, v]) => v !== undefined)) as CaptureFacts;
  const orientation = positive(tags.Orientation) ?? 1;
  return { facts, orientation };
}
