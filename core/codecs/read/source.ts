import { type Allocate } from '../../raster/raster';

/** Samples as a decoder found them, before colour and orientation. */
export interface Source {
  readonly width: number;
  readonly height: number;
  /** 1 grey, 2 grey and alpha, 3 colour, 4 colour and alpha (or C M Y K) */
  readonly channels: 1 | 2 | 3 | 4;
  readonly space: 'grey' | 'rgb' | 'cmyk';
  /** code of white; 1 for floats, which are scene-linear */
  readonly white: 255 | 65535 | 1;
  readonly data: Uint8Array | Uint8ClampedArray | Uint16Array | Float32Array;
  /** embedded ICC profile */
  readonly profile?: Uint8Array;
  /** EXIF as a TIFF structure, where the reader of facts does not find it by itself */
  readonly exif?: Uint8Array;
  /** the decoder has turned the picture upright already */
  readonly upright?: boolean;
}

/** A decoder of a compressed format, given by the platform, as it brings its own way to load the library: R G B A of 8 bits. */
export type RgbaDecoder = (
  bytes: Uint8Array,
) => Promise<{ readonly width: number; readonly height: number; readonly data: Uint8ClampedArray }>;

/** R G B of 8 bits, and a fourth that means nothing. */
export interface DecodedJpeg {
  readonly width: number;
  readonly height: number;
  readonly channels: 3 | 4;
  readonly data: Uint8Array | Uint8ClampedArray;
}

/** Whole files of three colours are plain; those of many pixels must be decoded in little memory. */
export type JpegForm = 'plain' | 'largePlain' | 'other';

/**
 * A decoder of JPEG.
 * @param allocate where the samples of a plain one lie
 */
export type JpegDecoder = (bytes: Uint8Array, form: JpegForm, allocate?: Allocate) => Promise<DecodedJpeg>;

/** A camera raw developer: scene-linear samples of 16 bits in the ROMM primaries and D65 white. */
export type RawDecoder = (
  bytes: Uint8Array,
) => Promise<{ readonly width: number; readonly height: number; readonly data: Uint16Array }>;
