import { beforeAll, describe, expect, jest, test } from '@jest/globals';
import { converter } from 'culori';
import { zlibSync } from 'fflate';
import { fromArrayBuffer } from 'geotiff';
import { readFileSync } from 'node:fs';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { srgbToLinear } from '@/core/raster/srgb';
import { nodePlatform } from '@/engine/nodePlatform';
import { inkLab, inkProfile } from '@/tests/inkProfile';
import { decodeImage } from '../decodeImage';
import { fileKind } from './fileKind';
import { joined } from './pngChunks';

const platform = nodePlatform();
const bytesOf = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../tests/files/${name}`, import.meta.url)));
const open = (name: string, bytes = bytesOf(name)) => decodeImage(name, bytes, platform);

let truth: EncodedImage;
// a library tells of every header that it does not know
jest.spyOn(console, 'warn').mockImplementation(() => undefined);
beforeAll(async () => {
  truth = (await open('truth16.png')).image;
});

/** Mean difference in codes of 8 bits. */
function differs(image: EncodedImage): number {
  expect([image.width, image.height]).toEqual([truth.width, truth.height]);
  let sum = 0;
  for (let i = 0; i < image.data.length; i++)
    sum += Math.abs(image.data[i] / image.white - truth.data[i] / truth.white) * 255;
  return sum / image.data.length;
}

// every file comes from an independent writer; see tests/files/README.md
describe('files of other writers open right', () => {
  test.each([
    ['lzw16.tif', 16, 0],
    ['zip16.tif', 16, 0],
    ['packbits16.tif', 16, 0],
    ['tiled16.tif', 16, 0],
    ['big16.tif', 16, 0],
    ['lzw8.tif', 8, 0.3],
    ['planar8.tif', 8, 0.3],
    ['zstd16.tif', 16, 0],
    ['lerc16.tif', 16, 0],
    ['lercZstd8.tif', 8, 0.3],
    // what JPEG loses of a pattern so sharp: libvips reads them with 1.51, 3.15 and 0.17
    ['jpegStrips8.tif', 8, 1.6],
    ['jpegTiled8.tif', 8, 3.25],
    ['jpegRgb8.tif', 8, 0.45],
    ['cmyk.tif', 8, 0.5],
    ['truth8.png', 8, 0.3],
    ['interlaced.png', 8, 0.3],
    ['alpha.png', 8, 0.3],
    ['palette.png', 8, 12],
    ['progressive.jpg', 8, 1],
    ['cmyk.jpg', 8, 1],
    ['lossless.webp', 8, 0.3],
    ['lossy.webp', 8, 3],
    ['truth.avif', 8, 1],
    ['truth.jxl', 8, 0.3],
    ['romm16.tif', 16, 0.05],
  ])('%s', async (name, depth, most) => {
    const file = await open(name);
    expect(file.depth).toBe(depth);
    expect(differs(file.image)).toBeLessThanOrEqual(most);
  });

  test.each(['grey.jpg', 'bit1.png', 'bit1.tif'])(
    '%s is grey, and has its lights where the truth has them',
    async (name) => {
      const { image } = await open(name);
      let [lights, darks, nl, nd] = [0, 0, 0, 0];
      for (let i = 0; i < image.data.length; i += 3) {
        expect(image.data[i]).toBe(image.data[i + 2]);
        const y = 0.3 * truth.data[i] + 0.6 * truth.data[i + 1] + 0.1 * truth.data[i + 2];
        if (y > 0.6 * 65535) [lights, nl] = [lights + image.data[i], nl + 1];
        if (y < 0.4 * 65535) [darks, nd] = [darks + image.data[i], nd + 1];
      }
      expect(lights / nl - darks / nd).toBeGreaterThan(60);
    },
  );

  test.each(['float.tif', 'zstdFloat.tif', 'light.exr', 'light.hdr'])(
    '%s keeps light beyond white',
    async (name) => {
      const { image, depth } = await open(name);
      expect([depth, image.white]).toEqual([32, 1]);
      const at = (22 * 61 + 25) * 3;
      const light = [0, 1, 2].map((c) => srgbToLinear(image.data[at + c]));
      [8, 6, 4].forEach((v, c) => expect(Math.abs(light[c] / v - 1)).toBeLessThan(0.01));
      const below = (40 * 61 + 30) * 3;
      expect(image.data[below]).toBeCloseTo(truth.data[below] / 65535, 2);
    },
  );
});

describe('profiles', () => {
  test('colours beyond sRGB are kept, as an independent library has them (culori, a98)', async () => {
    const { image } = await open('beyond98.tif');
    expect(image.white).toBe(1);
    const toLinear = converter('lrgb');
    let most = 0;
    for (let i = 0; i < image.data.length; i += 3 * 17) {
      const [r, g, b] = [0, 1, 2].map((c) => truth.data[i + c] / 65535);
      const expected = toLinear({ mode: 'a98', r, g, b });
      [expected.r, expected.g, expected.b].forEach((v, c) => {
        most = Math.max(most, Math.abs(srgbToLinear(image.data[i + c]) - v));
      });
    }
    expect(most).toBeLessThan(2e-3);
    // the green patch lies outside: not dull, but with less than no red
    expect(image.data[(8 * 61 + 8) * 3]).toBeLessThan(-0.1);
  });

  test('a wide-gamut JPEG shows what was there before it was converted', async () => {
    expect(differs((await open('wide98.jpg')).image)).toBeLessThan(1.5);
  });

  test('the inks of a JPEG are those of its profile (culori, Lab of D50; the inks from a TIFF of the same writer)', async () => {
    const profile = inkProfile();
    const head = Buffer.from('\xff\xe2\0\0ICC_PROFILE\0\x01\x01', 'latin1');
    head.writeUInt16BE(profile.length + 16, 2);
    const plain = bytesOf('cmyk.jpg');
    const tagged = Uint8Array.from([...plain.subarray(0, 2), ...head, ...profile, ...plain.subarray(2)]);
    const { image } = await open('press.jpg', tagged);
    const tiff = await fromArrayBuffer(bytesOf('cmyk.tif').slice().buffer);
    const inks = (await (await tiff.getImage()).readRasters({ interleave: true })) as unknown as Uint8Array;
    const toRgb = converter('rgb');
    let off = 0;
    for (let i = 0; 3 * i < image.data.length; i++) {
      const [l, a, b] = inkLab([0, 1, 2, 3].map((c) => inks[4 * i + c] / 255));
      const expected = toRgb({ mode: 'lab', l, a, b });
      [expected.r, expected.g, expected.b].forEach((v, c) => {
        off += Math.abs(image.data[3 * i + c] / image.white - v) * 255;
      });
    }
    expect(off / image.data.length).toBeLessThan(1.5);
    // the same inks without a profile are shown as light through each
    expect(differs(image)).toBeGreaterThan(10);
  });

  test('a damaged profile counts as none', async () => {
    const bytes = bytesOf('wide98.jpg');
    const at = Buffer.from(bytes).indexOf('ICC_PROFILE');
    bytes.fill(0, at + 14, at + 200);
    expect((await open('wide98.jpg', bytes)).image.width).toBe(61);
  });
});

describe('odd but good files', () => {
  test('a PNG without its end marker, and one with junk after it', async () => {
    const whole = bytesOf('truth8.png');
    expect(differs((await open('noend.png', whole.slice(0, -12))).image)).toBeLessThan(0.3);
    const junk = new Uint8Array([...whole, ...new Uint8Array(5000).fill(77)]);
    expect(differs((await open('junk.png', junk)).image)).toBeLessThan(0.3);
  });

  test('a JPEG without its end marker, and one with junk after it', async () => {
    const whole = bytesOf('progressive.jpg');
    expect(differs((await open('noend.jpg', whole.slice(0, -2))).image)).toBeLessThan(1.5);
    const junk = new Uint8Array([...whole, ...new Uint8Array(5000).fill(77)]);
    expect(differs((await open('junk.jpg', junk)).image)).toBeLessThan(1);
  });

  test('the ending of a name does not matter, but for raw files', () => {
    expect(fileKind('a.png', bytesOf('grey.jpg'))).toBe('jpeg');
    expect(fileKind('a.tif', bytesOf('lzw8.tif'))).toBe('tiff');
    expect(fileKind('a.dng', bytesOf('lzw8.tif'))).toBe('raw');
    expect(fileKind('a.txt', new TextEncoder().encode('notes'))).toBeUndefined();
  });
});

describe('bad files end as a sentence', () => {
  const NAMES = [
    'lzw16.tif',
    'tiled16.tif',
    'zstd16.tif',
    'lerc16.tif',
    'lercZstd8.tif',
    'jpegStrips8.tif',
    'jpegTiled8.tif',
    'truth8.png',
    'grey.jpg',
    'wide98.jpg',
    'cmyk.jpg',
    'lossy.webp',
    'truth.avif',
    'truth.jxl',
    'light.exr',
    'light.hdr',
  ];

  test.each(NAMES)('%s cut in the middle', async (name) => {
    const bytes = bytesOf(name);
    const thrown: unknown = await open(name, bytes.slice(0, bytes.length >> 1)).catch((e: unknown) => e);
    expect(thrown).toMatchObject({ name: 'Problem' });
    expect((thrown as Error).message).toContain(`“${name}”`);
  });

  test.each(NAMES)('%s with bytes changed at random opens or says so', async (name) => {
    let s = 11;
    const next = (n: number): number => (s = (s * 48271) % 2147483647) % n;
    const whole = bytesOf(name);
    for (let k = 0; k < 40; k++) {
      const bytes = whole.slice();
      for (let f = 0; f < 1 + (k % 12); f++)
        bytes[next(k % 2 ? bytes.length : Math.min(600, bytes.length))] = next(256);
      const result: unknown = await open(name, bytes).catch((e: unknown) => e);
      if (result instanceof Error) expect(result.name).toBe('Problem');
      else expect(result).toHaveProperty('image');
    }
  });

  test('sizes that only a header states are refused before anything is unpacked', async () => {
    const tiff = bytesOf('big16.tif');
    const view = new DataView(tiff.buffer);
    const directory = view.getUint32(4);
    for (let e = 0; e < view.getUint16(directory); e++) {
      const at = directory + 2 + e * 12;
      if (view.getUint16(at) === 256 || view.getUint16(at) === 257)
        view.setUint32(at + 8, 65500 * (view.getUint16(at + 2) === 3 ? 65536 : 1));
    }
    await expect(open('wide.tif', tiff)).rejects.toThrow('65500 × 65500');
    const hdr = new TextEncoder().encode('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 65500 +X 65500\n');
    await expect(open('wide.hdr', hdr)).rejects.toThrow('65500 × 65500');
    const exr = bytesOf('light.exr');
    const at = Buffer.from(exr).indexOf('dataWindow\0box2i\0') + 17 + 4;
    new DataView(exr.buffer).setInt32(at + 8, 65499, true);
    new DataView(exr.buffer).setInt32(at + 12, 65499, true);
    await expect(open('wide.exr', exr)).rejects.toThrow('65500 × 65500');
  });

  test('a PNG that unpacks to far more than its picture is refused', async () => {
    const header = bytesOf('truth8.png').slice(0, 33);
    new DataView(header.buffer).setUint32(16, 20);
    new DataView(header.buffer).setUint32(20, 20);
    const packed = zlibSync(new Uint8Array(8e6));
    const chunk = new Uint8Array(packed.length + 12);
    new DataView(chunk.buffer).setUint32(0, packed.length);
    chunk.set(new TextEncoder().encode('IDAT'), 4);
    chunk.set(packed, 8);
    await expect(open('bomb.png', joined([header, chunk]))).rejects.toThrow('meant to do harm');
  });
});
