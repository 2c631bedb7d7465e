import { Unzlib } from 'fflate';

// core knows no DOM library: the little of the Compression Streams standard that is needed
interface UnpackingStream {
  readonly writable: {
    readonly getWriter: () => {
      readonly write: (bytes: Uint8Array) => Promise<void>;
      readonly close: () => Promise<void>;
      readonly abort: () => Promise<void>;
    };
  };
  readonly readable: {
    readonly getReader: () => {
      readonly read: () => Promise<{ done: boolean; value?: Uint8Array }>;
      readonly cancel: () => Promise<void>;
    };
  };
}
type UnpackingStreams = new (format: 'deflate') => UnpackingStream;

/** bytes fed to the inflater at once: it may make a thousand times as many of them */
const STEP = 65536;
const LIBRARY_STEP = 16384;

/**
 * Unpacks a zlib stream (RFC 1950) piece by piece, in order, by the platform's own inflater, or the library's where there is none.
 * @param parts the stream, in as many parts as it came in
 * @param take given each piece; false ends it there
 * @returns whether the stream was whole: false when it is damaged, cut short, or was ended by `take`. What it made before was given.
 */
export async function unpackZlib(
  parts: readonly Uint8Array[],
  take: (piece: Uint8Array) => boolean,
  streams: UnpackingStreams | null = (globalThis as { DecompressionStream?: UnpackingStreams })
    .DecompressionStream ?? null,
): Promise<boolean> {
  return streams ? unpackByStream(new streams('deflate'), parts, take) : unpackByLibrary(parts, take);
}

async function unpackByStream(
  { writable, readable }: UnpackingStream,
  parts: readonly Uint8Array[],
  take: (piece: Uint8Array) => boolean,
): Promise<boolean> {
  const writer = writable.getWriter();
  const reader = readable.getReader();
  const feed = async (): Promise<void> => {
    for (const part of parts)
      for (let at = 0; at < part.length; at += STEP) await writer.write(part.subarray(at, at + STEP));
    await writer.close();
  };
  // what is wrong with the stream is told by the reader
  const fed = feed().catch(() => undefined);
  const isWhole = await (async () => {
    for (;;) {
      const piece = await reader.read();
      if (piece.done) return true;
      if (piece.value && !take(piece.value)) return false;
    }
  })().catch(() => false);
  if (!isWhole) await Promise.all([reader.cancel(), writer.abort()]).catch(() => undefined);
  await fed;
  return isWhole;
}

function unpackByLibrary(parts: readonly Uint8Array[], take: (piece: Uint8Array) => boolean): boolean {
  let goes = true;
  let ended = false;
  const unzlib = new Unzlib((piece, last) => {
    ended ||= last;
    goes &&= piece.length === 0 || take(piece);
  });
  try {
    for (const part of parts)
      for (let at = 0; at < part.length; at += LIBRARY_STEP) {
        unzlib.push(part.subarray(at, at + LIBRARY_STEP));
        if (!goes) return false;
      }
    unzlib.push(new Uint8Array(0), true);
  } catch {
    return false;
  }
  return goes && ended;
}
