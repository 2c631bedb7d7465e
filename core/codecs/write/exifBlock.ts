import { type CaptureFacts } from '../../capture/captureFacts';
import {
  ascii,
  bytes,
  directorySize,
  long,
  rational,
  shorts,
  type TiffField,
  writeDirectory,
} from './tiffStructure';

/** What a delivered file says of itself besides its pixels. */
export interface Metadata {
  /** facts of the reference's shot, kept */
  readonly facts?: CaptureFacts;
  readonly title?: string;
  /** says in the file that it is a composite of captured pictures (IPTC digital source type) */
  readonly disclosed: boolean;
}

const EXIF_POINTER = 0x8769;

const dateOf = (taken: string): string => `${taken.slice(0, 10).replaceAll('-', ':')} ${taken.slice(11, 19)}`;

/** Fields of the main directory (EXIF 2.32, 4.6.4). */
export function mainFields({ facts }: Metadata): TiffField[] {
  return [
    ...(facts?.camera ? [ascii(0x0110, facts.camera)] : []),
    shorts(0x0112, 1),
    ascii(0x0131, 'Marsh'),
    ...(facts?.taken ? [ascii(0x0132, dateOf(facts.taken))] : []),
  ];
}

/** Fields of the capture directory (EXIF 2.32, 4.6.5). */
export function captureFields({ facts }: Metadata): TiffField[] {
  const { seconds, aperture, iso, focalLength, taken, lens, whiteBalance } = facts ?? {};
  return [
    ...(seconds ? [rational(0x829a, seconds)] : []),
    ...(aperture ? [rational(0x829d, aperture)] : []),
    ...(iso ? [shorts(0x8827, Math.min(65535, Math.round(iso)))] : []),
    bytes(0x9000, Uint8Array.of(0x30, 0x32, 0x33, 0x32)),
    ...(taken ? [ascii(0x9003, dateOf(taken))] : []),
    ...(focalLength ? [rational(0x920a, focalLength)] : []),
    shorts(0xa001, 1),
    ...(whiteBalance ? [shorts(0xa403, whiteBalance === 'auto' ? 0 : 1)] : []),
    ...(lens ? [ascii(0xa434, lens)] : []),
  ];
}

/** A TIFF structure without a picture: the EXIF of JPEG and PNG files. */
export function exifBlock(metadata: Metadata): Uint8Array {
  const main = [...mainFields(metadata), long(EXIF_POINTER, 0)];
  const capture = captureFields(metadata);
  const at = 8 + directorySize(main);
  const out = new Uint8Array(at + directorySize(capture));
  const view = new DataView(out.buffer);
  writeTiffHeader(view);
  writeDirectory(view, 8, [...mainFields(metadata), long(EXIF_POINTER, at)]);
  writeDirectory(view, at, capture);
  return out;
}

/** `II`, 42, first directory at byte 8. */
export function writeTiffHeader(view: DataView): void {
  view.setUint16(0, 0x4949, true);
  view.setUint16(2, 42, true);
  view.setUint32(4, 8, true);
}
