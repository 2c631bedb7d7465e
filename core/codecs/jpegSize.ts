/**
 * Size that a JPEG's frame header states (ITU-T T.81, B.2.2), read before anything is decoded.
 * @returns undefined when there is no frame header
 */
export function jpegSize(bytes: Uint8Array): { width: number; height: number } | undefined {
  let p = 2;
  while (p + 9 < bytes.length) {
    if (bytes[p] !== 0xff) return undefined;
    const marker = bytes[p + 1];
    if (marker === 0xff) {
      p++;
      continue;
    }
    const frameHeader = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (frameHeader)
      return { height: bytes[p + 5] * 256 + bytes[p + 6], width: bytes[p + 7] * 256 + bytes[p + 8] };
    p += 2 + bytes[p + 2] * 256 + bytes[p + 3];
  }
  return undefined;
}
