/** What an OpenEXR header says, once it is known to be whole. */
export interface ExrHeader {
  readonly width: number;
  readonly height: number;
  /** name and pixel type (0 unsigned, 1 half, 2 float) */
  readonly channels: readonly { readonly name: string; readonly type: number }[];
  /** offsets of the chunks; none for tiles */
  readonly table: { readonly at: number; readonly count: number };
}

/** Scan lines in one chunk by compression number (OpenEXR file layout): none, RLE, ZIPS, ZIP, PIZ, PXR24, B44, B44A, DWAA, DWAB. */
const LINES = [1, 1, 1, 16, 32, 16, 32, 32, 32, 256];
const LONGEST_NAME = 255;
const TILED = 0x200;
const UNREAD = 0x1800;

/**
 * Walks the header of a single-part OpenEXR file and checks that everything it points at lies in the file, so that a library can
 * follow it without getting lost.
 * @throws Error when anything does not
 */
export function exrHeader(bytes: Uint8Array): ExrHeader {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const version = view.getUint32(4, true);
  if ((version & 0xff) !== 2 || version & UNREAD) throw new Error('a kind of file that is not read');
  let p = 8;
  const text = (): string => {
    const end = bytes.indexOf(0, p);
    if (end < 0 || end - p > LONGEST_NAME) throw new Error('a name without end');
    const s = String.fromCharCode(...bytes.subarray(p, end));
    p = end + 1;
    return s;
  };
  const found = new Map<string, { at: number; size: number }>();
  while (bytes[p] !== 0) {
    const name = text();
    const type = text();
    const size = view.getUint32(p, true);
    if (p + 4 + size > bytes.length) throw new Error('an attribute beyond the end');
    found.set(`${name}:${type}`, { at: p + 4, size });
    p += 4 + size;
  }
  const need = (name: string, size?: number): number => {
    const attribute = found.get(name);
    if (!attribute || (size !== undefined && attribute.size !== size)) throw new Error(`no ${name}`);
    return attribute.at;
  };
  const box = need('dataWindow:box2i', 16);
  const width = view.getInt32(box + 8, true) - view.getInt32(box, true) + 1;
  const height = view.getInt32(box + 12, true) - view.getInt32(box + 4, true) + 1;
  const lines = LINES[bytes[need('compression:compression', 1)]];
  if (!lines) throw new Error('a compression that is not read');
  need('lineOrder:lineOrder', 1);
  const channels = channelList(bytes, view, found.get('channels:chlist'));
  const table = { at: p + 1, count: version & TILED ? 0 : Math.ceil(height / lines) };
  return { width, height, channels, table };
}

function channelList(
  bytes: Uint8Array,
  view: DataView,
  list?: { at: number; size: number },
): ExrHeader['channels'] {
  if (!list) throw new Error('no channels');
  const channels: { name: string; type: number }[] = [];
  const end = list.at + list.size;
  let p = list.at;
  while (p < end && bytes[p] !== 0) {
    const stop = bytes.indexOf(0, p);
    if (stop < 0 || stop + 17 > end) throw new Error('a channel without end');
    const type = view.getUint32(stop + 1, true);
    const sampled = view.getUint32(stop + 9, true) !== 1 || view.getUint32(stop + 13, true) !== 1;
    if (type > 2 || sampled) throw new Error('a channel that is not read');
    channels.push({ name: String.fromCharCode(...bytes.subarray(p, stop)), type });
    p = stop + 17;
  }
  if (channels.length === 0 || channels.length > 64) throw new Error('no channels');
  return channels;
}

/** Checks that every offset of the table points at a chunk that lies in the file. @throws Error when one does not */
export function checkChunks(bytes: Uint8Array, { at: table, count }: ExrHeader['table']): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (table + count * 8 > view.byteLength) throw new Error('a table beyond the end');
  for (let i = 0; i < count; i++) {
    const at = Number(view.getBigUint64(table + i * 8, true));
    if (at < table || at + 8 > view.byteLength || at + 8 + view.getUint32(at + 4, true) > view.byteLength)
      throw new Error('a chunk beyond the end');
  }
}
