import { dump, insert, type IExif, TagValues } from 'piexif-ts';
import { type CaptureFacts } from '@/core/capture/captureFacts';

/** Smallest fraction close to a value, for EXIF's rationals. */
function rational(value: number): [number, number] {
  for (let q = 1; q <= 10000; q++)
    if (Math.abs(Math.round(value * q) / q - value) < 1e-7 * value) return [Math.round(value * q), q];
  return [Math.round(value * 10000), 10000];
}

const { ImageIFD, ExifIFD } = TagValues;

/** Puts the facts of a shot into a JPEG file as EXIF 2.32. */
export function writeExif(jpeg: Uint8Array, facts: CaptureFacts, orientation = 1): Uint8Array {
  const exif: IExif = { '0th': { [ImageIFD.Orientation]: orientation }, Exif: {} };
  const main = exif['0th'] ?? {};
  const shot = exif.Exif ?? {};
  if (facts.camera) main[ImageIFD.Model] = facts.camera;
  if (facts.seconds) shot[ExifIFD.ExposureTime] = rational(facts.seconds);
  if (facts.aperture) shot[ExifIFD.FNumber] = rational(facts.aperture);
  if (facts.iso) shot[ExifIFD.ISOSpeedRatings] = facts.iso;
  if (facts.focalLength) shot[ExifIFD.FocalLength] = rational(facts.focalLength);
  if (facts.lens) shot[ExifIFD.LensModel] = facts.lens;
  if (facts.whiteBalance) shot[ExifIFD.WhiteBalance] = facts.whiteBalance === 'auto' ? 0 : 1;
  if (facts.taken) {
    const [date, time] = facts.taken.split('T');
    const [clock, fraction] = time.split('.');
    shot[ExifIFD.DateTimeOriginal] = `${date.replaceAll('-', ':')} ${clock}`;
    if (fraction) shot[ExifIFD.SubSecTimeOriginal] = fraction;
  }
  // the library works on strings of bytes
  const binary = Array.from({ length: Math.ceil(jpeg.length / 8192) }, (_, k) =>
    String.fromCharCode(...jpeg.subarray(k * 8192, (k + 1) * 8192)),
  ).join('');
  return Uint8Array.from(insert(dump(exif), binary), (c) => c.charCodeAt(0));
}
