import { Zlib } from 'fflate';

/** Packs bytes as one zlib stream (RFC 1950). */
export interface ZlibPacker {
  readonly push: (bytes: Uint8Array) => Promise<void>;
  /** ends the stream; its parts in order */
  readonly end: () => Promise<readonly Uint8Array[]>;
}

// core knows no DOM library: the little of the Compression Streams standard that is needed
interface PackingStream {
  readonly writable: {
    readonly getWriter: () => {
      readonly write: (bytes: Uint8Array) => Promise<void>;
      readonly close: () => Promise<void>;
    };
  };
  readonly readable: {
    readonly getReader: () => { readonly read: () => Promise<{ done: boolean; value?: Uint8Array }> };
  };
}
type PackingStreams = new (format: 'deflate') => PackingStream;

/** of photographs more effort saves half a percent and takes half as long again */
const LEVEL = 3;

/** The platform's own packer, which is two to four times as fast, or the library's where there is none. */
export function zlibPacker(
  streams: PackingStreams | null = (globalThis as { CompressionStream?: PackingStreams }).CompressionStream ??
    null,
): ZlibPacker {
  return streams ? packerOf(new streams('deflate')) : libraryPacker();
}

function packerOf({ writable, readable }: PackingStream): ZlibPacker {
  const writer = writable.getWriter();
  const reader = readable.getReader();
  const parts: Uint8Array[] = [];
  const collect = async (): Promise<void> => {
    for (let part = await reader.read(); !part.done; part = await reader.read())
      if (part.value) parts.push(part.value);
  };
  const collected = collect();
  return {
    push: (bytes) => writer.write(bytes),
    end: async () => {
      await writer.close();
      await collected;
      return parts;
    },
  };
}

function libraryPacker(): ZlibPacker {
  const parts: Uint8Array[] = [];
  const zlib = new Zlib({ level: LEVEL }, (part) => parts.push(part));
  return {
    push: (bytes) => Promise.resolve(zlib.push(bytes, false)),
    end: () => {
      zlib.push(new Uint8Array(0), true);
      return Promise.resolve(parts);
    },
  };
}
