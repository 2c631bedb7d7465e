import { beforeAll, describe, expect, test } from '@jest/globals';
import exifr from 'exifr';
import jpeg from 'jpeg-js';
import { INTENT_RELATIVE_COLORIMETRIC, instantiate, TYPE_RGB_16, TYPE_RGB_8 } from 'lcms-wasm';
import { PNG } from 'pngjs';
import { decode as decodeTiffFile } from 'tiff';
import { FloatType } from 'three';
import { EXRLoader } from 'three/addons/loaders/EXRLoader.js';
import { writeExif } from '@/camera/writeExif';
import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { srgbToLinear } from '@/core/raster/srgb';
import { nodePlatform } from '@/engine/nodePlatform';
import { paint, waves } from '@/tests/paint';
import { decodeImage } from './decodeImage';
import { encodeExr } from './write/encodeExr';
import { encodeJpeg } from './write/encodeJpeg';
import { encodeAlphaPng, encodePng } from './write/encodePng';
import { zlibPacker } from './write/zlibPacker';
import { encodeTiff } from './write/encodeTiff';
import { checkSize } from './fileLimits';
import { jpegHeader } from './read/jpegHeader';
import { orientImage } from './read/orientImage';
import { readFacts } from './read/readFacts';
import { srgbProfile } from './write/srgbProfile';

const platform = nodePlatform();
const { encodeJpeg: encodeBytes } = platform;
const texture = waves(5, 20);
const deep = paint(61, 43, (x, y) => [texture(x, y), texture(y, x), 0.3], 65535);
const shallow = paint(61, 43, (x, y) => [texture(x, y), texture(y, x), 0.3]);
const open = (name: string, bytes: Uint8Array) => decodeImage(name, bytes, platform);
const sameAs = (a: EncodedImage, b: EncodedImage): void => {
  expect([a.width, a.height, a.white]).toEqual([b.width, b.height, b.white]);
  expect(Buffer.compare(Buffer.from(a.data.buffer.slice(0)), Buffer.from(b.data.buffer.slice(0)))).toBe(0);
};

describe('PNG (W3C)', () => {
  test.each([
    ['the platform’s packer', undefined],
    ['the library’s', null],
  ])('16 bit, %s: an independent reader (pngjs) finds the same samples', async (_, streams) => {
    const bytes = await encodePng(deep, undefined, zlibPacker(streams));
    const read = PNG.sync.read(Buffer.from(bytes), { skipRescale: true });
    expect([read.width, read.height, read.depth]).toEqual([61, 43, 16]);
    const data = new Uint16Array(read.data.buffer, read.data.byteOffset, 61 * 43 * 4);
    for (let i = 0; i < 61 * 43; i += 13)
      expect([...data.subarray(i * 4, i * 4 + 3)]).toEqual([...deep.data.subarray(i * 3, i * 3 + 3)]);
  });

  test.each([
    ['16 bit', deep],
    ['8 bit', shallow],
  ])('%s comes back exact', async (_, image) =>
    sameAs((await open('a.png', await encodePng(image))).image, image),
  );

  test('carries the sRGB profile right after the header', async () => {
    const bytes = await encodePng(shallow);
    expect(new TextDecoder('latin1').decode(bytes.subarray(37, 41))).toBe('iCCP');
    const icc = (await exifr.parse(Buffer.from(bytes), { icc: true, mergeOutput: false })) as {
      icc?: Record<string, unknown>;
    };
    expect(icc.icc).toMatchObject({ ColorSpaceData: 'RGB', ProfileDescription: 'sRGB' });
  });

  const written = (png: PNG, options: object) => new Uint8Array(PNG.sync.write(png, options));

  test.each([
    ['grey', { colorType: 0 }],
    ['grey with alpha', { colorType: 4 }],
    ['colour with alpha', { colorType: 6 }],
  ])('%s files of another writer (pngjs) open', async (_, options) => {
    const png = new PNG({ width: 20, height: 18, inputHasAlpha: true });
    for (let i = 0; i < 360; i++) png.data.set([i % 256, i % 256, i % 256, 255], i * 4);
    const { image, depth } = await open('grey.png', written(png, options));
    expect(depth).toBe(8);
    expect([...image.data.subarray(300, 303)]).toEqual([100, 100, 100]);
  });
});

describe('JPEG', () => {
  test.each([
    ['small', 0xc2],
    ['baseline', 0xc0],
  ] as const)(
    '%s: an independent reader (jpeg-js) sees the picture, the profile and the quality',
    async (form, frame) => {
      const bytes = await encodeJpeg(shallow, 95, encodeBytes, undefined, form);
      // the marker of the frame tells how it is coded (ITU-T T.81, table B.1)
      expect(bytes.some((v, i) => v === 0xff && bytes[i + 1] === frame)).toBe(true);
      const read = jpeg.decode(bytes, { useTArray: true });
      let sum = 0;
      for (let i = 0; i < 61 * 43; i++)
        for (let c = 0; c < 3; c++) sum += Math.abs(read.data[i * 4 + c] - shallow.data[i * 3 + c]);
      expect(sum / (61 * 43 * 3)).toBeLessThan(1.5);
      const icc = (await exifr.parse(Buffer.from(bytes), { icc: true, mergeOutput: false })) as {
        icc?: Record<string, unknown>;
      };
      expect(icc.icc).toMatchObject({ ProfileDescription: 'sRGB' });
      const coarse = await encodeJpeg(shallow, 40, encodeBytes, undefined, form);
      expect(coarse.length).toBeLessThan(bytes.length * 0.7);
    },
  );

  test('a file of another writer (jpeg-js) opens within two codes', async () => {
    const rgba = new Uint8Array(61 * 43 * 4).fill(255);
    for (let i = 0; i < 61 * 43; i++) rgba.set(shallow.data.subarray(i * 3, i * 3 + 3), i * 4);
    const { image, depth } = await open('b.jpg', jpeg.encode({ width: 61, height: 43, data: rgba }, 96).data);
    expect(depth).toBe(8);
    const mean =
      [...image.data].reduce((s, v, i) => s + Math.abs(v - shallow.data[i]), 0) / image.data.length;
    expect(mean).toBeLessThan(2);
  });

  test('the stated size is read without decoding', async () => {
    expect(jpegHeader(await encodeJpeg(shallow, 80, encodeBytes))).toMatchObject({
      width: 61,
      height: 43,
      components: 3,
      ended: true,
    });
    expect(jpegHeader(new Uint8Array([0xff, 0xd8, 0xff, 0xd9]))).toBeUndefined();
  });
});

describe('TIFF 6.0', () => {
  test.each([
    ['16 bit', deep],
    ['8 bit', shallow],
  ])('%s: an independent reader (tiff) finds the same samples', (_, image) => {
    const [page] = decodeTiffFile(encodeTiff(image));
    expect([page.width, page.height, page.samplesPerPixel]).toEqual([61, 43, 3]);
    expect([...page.data.slice(0, 600)]).toEqual([...image.data.slice(0, 600)]);
  });
});

describe('OpenEXR', () => {
  test('holds scene-linear light, top row first to its reader (three)', async () => {
    const loader = new EXRLoader();
    loader.setDataType(FloatType);
    const { width = 0, height = 0, data } = loader.parse((await encodeExr(deep)).slice().buffer);
    expect([width, height]).toEqual([61, 43]);
    // rows come from the bottom up
    const at = (42 * 61 + 7) * 4;
    expect((data as Float32Array)[at]).toBeCloseTo(srgbToLinear(deep.data[7 * 3] / 65535), 3);
  });
});

describe('the sRGB profile', () => {
  test('turns codes into the same colours as an independent colour engine does (lcms, wasm)', async () => {
    const lcms = await instantiate();
    const profile = srgbProfile();
    const own = lcms.cmsOpenProfileFromMem(profile, profile.length);
    expect(own).not.toBe(0);
    const transform = lcms.cmsCreateTransform(
      own,
      TYPE_RGB_8,
      lcms.cmsCreate_sRGBProfile(),
      TYPE_RGB_16,
      INTENT_RELATIVE_COLORIMETRIC,
      0,
    );
    const codes = Uint8Array.from([0, 0, 0, 255, 255, 255, 200, 30, 90, 12, 140, 240, 128, 128, 128]);
    const out = lcms.cmsDoTransform(transform, codes, 5);
    codes.forEach((code, i) => expect(Math.abs(out[i] / 257 - code)).toBeLessThan(0.5));
  });
});

describe('EXIF', () => {
  const facts = {
    seconds: 1 / 960,
    aperture: 2.8,
    iso: 400,
    focalLength: 24,
    taken: '2026-10-03T18:52:07.12',
    camera: 'Marsh stand-in camera',
  };

  test('what the camera writes is read back, also by another reader (exifr)', async () => {
    const bytes = writeExif(await encodeJpeg(shallow, 80, encodeBytes), facts, 6);
    const read = await readFacts(bytes);
    expect(read.orientation).toBe(6);
    expect(read.facts).toEqual({ ...facts, seconds: expect.closeTo(1 / 960, 9) });
    expect(await exifr.parse(Buffer.from(bytes), ['ExposureTime', 'FNumber'])).toMatchObject({
      FNumber: 2.8,
      ExposureTime: expect.closeTo(1 / 960, 9),
    });
  });

  test('absent or damaged metadata gives no facts and no error', async () => {
    expect(await readFacts(await encodeJpeg(shallow, 80, encodeBytes))).toEqual({
      facts: {},
      orientation: 1,
    });
    const bytes = writeExif(await encodeJpeg(shallow, 80, encodeBytes), facts);
    bytes.fill(0x55, 20, 120);
    const read = await readFacts(bytes);
    expect(read.orientation).toBe(1);
    // the picture itself still opens
    expect((await open('odd.jpg', bytes)).image.width).toBe(61);
  });

  // EXIF 2.32, tag 274: where the stored row 0, column 0 lies; drawn as a 3 × 2 picture of letters
  test.each([
    [1, 'abc/def'],
    [2, 'cba/fed'],
    [3, 'fed/cba'],
    [4, 'def/abc'],
    [5, 'ad/be/cf'],
    [6, 'da/eb/fc'],
    [7, 'fc/eb/da'],
    [8, 'cf/be/ad'],
  ])('orientation %i is turned upright', (orientation, expected) => {
    const data = Uint8Array.from([...'abcdef'].flatMap((l) => [l.charCodeAt(0), 0, 0]));
    const { width, height, data: out } = orientImage(data, 3, 2, 3, 255, orientation);
    const rows = Array.from({ length: height }, (_, y) =>
      String.fromCharCode(...Array.from({ length: width }, (_, x) => out[(y * width + x) * 3])),
    );
    expect(rows.join('/')).toBe(expected);
  });
});

describe('bad files end as a sentence with their name', () => {
  let good: Uint8Array;
  beforeAll(async () => {
    good = await encodePng(shallow);
  });
  const bomb = (): Uint8Array => {
    const bytes = good.slice();
    const view = new DataView(bytes.buffer);
    view.setUint32(16, 65500);
    view.setUint32(20, 65500);
    return bytes;
  };
  test.each([
    ['empty', 'empty.jpg', () => new Uint8Array(0), 'is empty'],
    [
      'text',
      'notes.jpg',
      () => new TextEncoder().encode('these are notes, not a picture'),
      'is not a picture that Marsh reads',
    ],
    ['truncated PNG', 'cut.png', () => good.slice(0, good.length >> 1), 'damaged'],
    ['header only', 'head.png', () => good.slice(0, 30), 'damaged'],
    ['JPEG start only', 'start.jpg', () => new Uint8Array([0xff, 0xd8, 0xff, 0xe0, 0, 4, 0, 0]), 'damaged'],
    ['huge size stated', 'bomb.png', bomb, '65500 × 65500'],
  ])('%s', async (_, name, bytes, says) => {
    const thrown: unknown = await open(name, bytes()).catch((e: unknown) => e);
    expect(thrown).toMatchObject({ name: 'Problem' });
    expect((thrown as Error).message).toContain(`“${name}”`);
    expect((thrown as Error).message).toContain(says);
  });

  test('sizes are bounded on both ends', () => {
    expect(() => checkSize('tiny.png', 8, 8)).toThrow('too small');
    expect(() => checkSize('wide.png', 30001, 20)).toThrow('megapixels');
    expect(() => checkSize('good.png', 6000, 4000)).not.toThrow();
  });

  test('bytes flipped at random never do anything else than open or say so', async () => {
    let s = 7;
    const next = (n: number): number => (s = (s * 48271) % 2147483647) % n;
    for (let k = 0; k < 60; k++) {
      const bytes = good.slice();
      for (let f = 0; f < 6; f++) bytes[8 + next(bytes.length - 8)] = next(256);
      const result: unknown = await open('flip.png', bytes).catch((e: unknown) => e);
      if (result instanceof Error) expect(result.name).toBe('Problem');
      else expect(result).toHaveProperty('image');
    }
  });

  test('an image of no colours is black', () =>
    expect(emptyImage(2, 2, 255).data.every((v) => v === 0)).toBe(true));
});

describe('files with opacity', () => {
  test('a PNG with clear parts opens as a cut-out, an opaque one as a picture', async () => {
    const data = new Uint8Array(20 * 20 * 4).fill(255);
    const opaque = await open('whole.png', encodeAlphaPng(data, 20, 20));
    expect(opaque.image.alpha).toBeUndefined();
    for (let i = 0; i < 200; i++) data.set([0, 0, 0, 0], 4 * i);
    data.set([10, 20, 30, 128], 4 * 200);
    const cut = await open('cut.png', encodeAlphaPng(data, 20, 20));
    const { alpha } = cut.image;
    expect(alpha && [alpha[0], alpha[3 * 200], alpha[3 * 399]]).toEqual([0, 128, 255]);
    // the clear half has taken the colour beside it
    expect(cut.image.data[3 * 30]).toBeGreaterThan(200);
  });
});
