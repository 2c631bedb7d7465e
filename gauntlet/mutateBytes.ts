import { joined } from '@/core/codecs/read/pngChunks';

/** Numbers that codecs stumble over: nothing, the ends of signed and unsigned words, and a little beyond. */
const EXTREMES = [
  0, 1, 0x7f, 0x80, 0xff, 0x7fff, 0x8000, 0xffff, 0x10000, 0x7fffffff, 0x80000000, 0xffffffff,
] as const;

type Mutation = (bytes: Uint8Array, below: (n: number) => number) => Uint8Array;

const patched = (bytes: Uint8Array, change: (copy: Uint8Array) => unknown): Uint8Array => {
  const copy = bytes.slice();
  change(copy);
  return copy;
};

/** A place in a file, half of the time in its header, where sizes and offsets stand. */
const place = (bytes: Uint8Array, below: (n: number) => number): number =>
  below(2) ? below(bytes.length) : below(Math.min(bytes.length, 512));

const MUTATIONS: readonly Mutation[] = [
  // single bits
  (bytes, below) =>
    patched(bytes, (copy) => {
      for (let k = below(16); k >= 0; k--) copy[place(copy, below)] ^= 1 << below(8);
    }),
  // bytes
  (bytes, below) =>
    patched(bytes, (copy) => {
      for (let k = below(24); k >= 0; k--) copy[place(copy, below)] = below(256);
    }),
  // words of extreme values, either way round
  (bytes, below) =>
    patched(bytes, (copy) => {
      const view = new DataView(copy.buffer);
      for (let k = below(4); k >= 0; k--) {
        const at = place(copy, below);
        const value = EXTREMES[below(EXTREMES.length)];
        if (below(2) && at + 2 <= copy.length) view.setUint16(at, value & 0xffff, below(2) === 0);
        else if (at + 4 <= copy.length) view.setUint32(at, value, below(2) === 0);
      }
    }),
  // cut
  (bytes, below) => bytes.slice(0, below(bytes.length)),
  // a piece missing, doubled, filled, or taken from elsewhere
  (bytes, below) => {
    const [from, length] = [place(bytes, below), 1 + below(Math.max(1, bytes.length >> 2))];
    return joined([bytes.slice(0, from), bytes.slice(Math.min(bytes.length, from + length))]);
  },
  (bytes, below) => {
    const [from, length] = [place(bytes, below), 1 + below(Math.max(1, bytes.length >> 2))];
    const piece = bytes.slice(from, from + length);
    return joined([bytes.slice(0, from), ...Array<Uint8Array>(1 + below(8)).fill(piece), bytes.slice(from)]);
  },
  (bytes, below) =>
    patched(bytes, (copy) => {
      const from = place(copy, below);
      copy.fill(below(2) ? 0 : 255, from, from + below(4096));
    }),
  (bytes, below) =>
    patched(bytes, (copy) => {
      const from = below(copy.length);
      copy.copyWithin(place(copy, below), from, Math.min(copy.length, from + below(1024)));
    }),
];

/** A damaged copy of a file: one to three things done to it. @param random 0…1, seeded */
export function mutateBytes(bytes: Uint8Array, random: () => number): Uint8Array {
  const below = (n: number): number => Math.floor(random() * n);
  // two of five are hurt as a bad card hurts them: one bit, anywhere
  if (random() < 0.4 && bytes.length > 0)
    return patched(bytes, (copy) => (copy[below(copy.length)] ^= 1 << below(8)));
  let mutated = bytes;
  for (let k = below(3); k >= 0 && mutated.length > 0; k--)
    mutated = MUTATIONS[below(MUTATIONS.length)](mutated, below);
  return mutated;
}
