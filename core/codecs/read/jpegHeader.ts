/** What a JPEG says of itself before anything is decoded. */
export interface FrameHeader {
  readonly width: number;
  readonly height: number;
  readonly components: number;
  /** colours are stored as luminance and differences: what the APP14 segment says of pictures of four components */
  readonly twisted: boolean;
  /** the end marker is there */
  readonly ended: boolean;
  /** passes over the picture */
  readonly scans: number;
  /** embedded ICC profile, put together from its segments (ICC.1 annex B.4) */
  readonly profile?: Uint8Array;
}

const LABEL = 'ICC_PROFILE\0';
/** name of the segment that says how four components are stored */
const TWIST = 'Adobe';

/**
 * Reads the frame header of a JPEG (ITU-T T.81, B.2.2) and its embedded profile without decoding anything.
 * @returns undefined when there is no frame header
 */
export function jpegHeader(bytes: Uint8Array): FrameHeader | undefined {
  const parts: Uint8Array[] = [];
  let twisted = false;
  let p = 2;
  while (p + 9 < bytes.length) {
    if (bytes[p] !== 0xff) return undefined;
    const marker = bytes[p + 1];
    if (marker === 0xff) {
      p++;
      continue;
    }
    const length = bytes[p + 2] * 256 + bytes[p + 3];
    if (length < 2) return undefined;
    const body = bytes.subarray(p + 4, p + 2 + length);
    if (marker === 0xe2 && LABEL === String.fromCharCode(...body.subarray(0, 12)))
      parts[body[12]] = body.subarray(14);
    if (marker === 0xee && TWIST === String.fromCharCode(...body.subarray(0, 5))) twisted = body[11] === 2;
    const frameHeader = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (frameHeader)
      return {
        height: bytes[p + 5] * 256 + bytes[p + 6],
        width: bytes[p + 7] * 256 + bytes[p + 8],
        components: bytes[p + 9],
        twisted,
        ended: hasEnd(bytes),
        scans: scansFrom(bytes, p),
        ...profileOf(parts),
      };
    p += 2 + length;
  }
  return undefined;
}

/** Start-of-scan markers from a place on: within coded data a byte of ones is never followed by one (ITU-T T.81, B.1.1.5). */
function scansFrom(bytes: Uint8Array, from: number): number {
  let scans = 0;
  for (let p = bytes.indexOf(0xff, from); p >= 0 && p + 1 < bytes.length; p = bytes.indexOf(0xff, p + 1))
    if (bytes[p + 1] === 0xda) scans++;
  return scans;
}

function profileOf(parts: readonly Uint8Array[]): { profile?: Uint8Array } {
  const whole = parts.filter((part) => part.length > 0);
  if (whole.length === 0) return {};
  const profile = new Uint8Array(whole.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of whole) {
    profile.set(part, at);
    at += part.length;
  }
  return { profile };
}

/** Whether the end marker stands anywhere in the last megabyte: devices append data after it. */
function hasEnd(bytes: Uint8Array): boolean {
  for (let i = bytes.length - 2; i >= Math.max(2, bytes.length - 1e6); i--)
    if (bytes[i] === 0xff && bytes[i + 1] === 0xd9) return true;
  return false;
}
