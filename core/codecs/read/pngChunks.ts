/** One chunk of a PNG, without its length and checksum. */
export interface PngChunk {
  readonly type: string;
  readonly body: Uint8Array;
  /** the whole chunk as it lies in the file */
  readonly whole: Uint8Array;
}

/** Splits a PNG into its chunks up to the end marker; one that the file cuts short ends the list (W3C PNG, 5.3). */
export function pngChunks(bytes: Uint8Array): PngChunk[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: PngChunk[] = [];
  for (let p = 8; p + 12 <= bytes.length;) {
    const length = view.getUint32(p);
    const end = p + 12 + length;
    if (end > bytes.length) break;
    const type = String.fromCharCode(...bytes.subarray(p + 4, p + 8));
    if (type === 'IEND') break;
    chunks.push({ type, body: bytes.subarray(p + 8, end - 4), whole: bytes.subarray(p, end) });
    p = end;
  }
  return chunks;
}

/** Joins byte arrays. */
export function joined(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
