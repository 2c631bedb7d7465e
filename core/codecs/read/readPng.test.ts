import { describe, expect, test } from '@jest/globals';
import { zlibSync } from 'fflate';
import { decode, encode } from 'fast-png';
import { deflateSync } from 'node:zlib';
import { randomSource } from '@/core/raster/random';
import { readPng } from './readPng';
import { unpackZlib } from './unpackZlib';

const random = randomSource(3);
const noise = (n: number): Uint8Array => Uint8Array.from({ length: n }, () => random() * 256);

/** A PNG whose rows each carry one of the five filters: whatever the bytes are, they are some picture. */
function filtered(width: number, height: number, depth: 8 | 16, channels: 1 | 2 | 3 | 4): Uint8Array {
  const colour = [0, 4, 2, 6][channels - 1];
  const row = (width * channels * depth) / 8;
  const raw = noise((row + 1) * height);
  for (let y = 0; y < height; y++) raw[y * (row + 1)] = y % 5;
  const form = encode({
    width,
    height,
    depth,
    channels,
    data: new (depth === 8 ? Uint8Array : Uint16Array)(width * height * channels),
  });
  const header = form.slice(0, 33);
  expect(header[25]).toBe(colour);
  const packed = zlibSync(raw);
  const cut = Math.floor(packed.length / 2);
  return Uint8Array.from([...header, ...chunk(packed.slice(0, cut)), ...chunk(packed.slice(cut)), ...END]);
}

const END = [0, 0, 0, 0, 0x49, 0x45, 0x4e, 0x44, 0xae, 0x42, 0x60, 0x82];

function chunk(body: Uint8Array): Uint8Array {
  const whole = new Uint8Array(body.length + 12);
  new DataView(whole.buffer).setUint32(0, body.length);
  whole.set(new TextEncoder().encode('IDAT'), 4);
  whole.set(body, 8);
  return whole;
}

describe('rows of a PNG', () => {
  test.each([1, 2, 3, 4] as const)(
    'every filter, %i channels: the samples of the library',
    async (channels) => {
      for (const depth of [8, 16] as const) {
        const file = filtered(37, 23, depth, channels);
        const { data, white, channels: count } = await readPng('a.png', file);
        const truth = decode(file, { checkCrc: false });
        expect([count, white]).toEqual([channels, depth === 8 ? 255 : 65535]);
        expect(
          Buffer.compare(
            Buffer.from(data.buffer),
            Buffer.from(truth.data.buffer as ArrayBuffer, 0, truth.data.byteLength),
          ),
        ).toBe(0);
      }
    },
  );

  test('a filter that does not exist, and rows that are missing, are damage', async () => {
    const file = filtered(20, 20, 8, 3);
    await expect(readPng('a.png', file.slice(0, 0.8 * file.length))).rejects.toThrow('rows are missing');
    const raw = noise(61 * 20).fill(9);
    const bad = Uint8Array.from([...file.slice(0, 33), ...chunk(zlibSync(raw)), ...END]);
    await expect(readPng('a.png', bad)).rejects.toThrow('no such filter');
  });
});

describe('a zlib stream', () => {
  const raw = noise(300_000).map((v) => v >> 4);
  const packed = new Uint8Array(deflateSync(raw));
  const take = async (parts: readonly Uint8Array[], streams?: null, most = Infinity) => {
    const made: number[] = [];
    const isWhole = await unpackZlib(
      parts,
      (piece) => {
        for (const v of piece) made.push(v);
        return made.length <= most;
      },
      streams,
    );
    return { isWhole, made };
  };

  test.each([
    ['by the platform', undefined],
    ['by the library', null],
  ] as const)('%s: whole, cut short, damaged, ended', async (_, streams) => {
    const whole = await take([packed.subarray(0, 1000), packed.subarray(1000)], streams);
    expect(whole.isWhole).toBe(true);
    expect(Buffer.compare(Buffer.from(whole.made), Buffer.from(raw))).toBe(0);
    const cut = await take([packed.subarray(0, packed.length / 2)], streams);
    expect(cut.isWhole).toBe(false);
    expect(cut.made.length).toBeGreaterThan(100_000);
    expect(raw.subarray(0, cut.made.length)).toEqual(Uint8Array.from(cut.made));
    expect((await take([Uint8Array.of(1, 2, 3, 4)], streams)).isWhole).toBe(false);
    const ended = await take([packed], streams, 1000);
    expect(ended.isWhole).toBe(false);
    expect(ended.made.length).toBeLessThan(200_000);
  });
});
