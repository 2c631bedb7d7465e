/** A grey 8-bit TIFF 6.0 of one strip that is packed as told; nothing checks that it can be unpacked. */
export function tiffOf(width: number, height: number, compression: number, strip: Uint8Array): Uint8Array {
  const entries: readonly (readonly [tag: number, value: number])[] = [
    [256, width],
    [257, height],
    [258, 8],
    [259, compression],
    [262, 1],
    [273, 8],
    [277, 1],
    [278, height],
    [279, strip.length],
  ];
  const directory = 8 + strip.length + (strip.length & 1);
  const bytes = new Uint8Array(directory + 2 + entries.length * 12 + 4);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, 0x49492a00);
  view.setUint32(4, directory, true);
  bytes.set(strip, 8);
  view.setUint16(directory, entries.length, true);
  entries.forEach(([tag, value], i) => {
    const at = directory + 2 + i * 12;
    view.setUint16(at, tag, true);
    view.setUint16(at + 2, 4, true);
    view.setUint32(at + 4, 1, true);
    view.setUint32(at + 8, value, true);
  });
  return bytes;
}
