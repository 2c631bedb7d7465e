import { beforeAll, describe, expect, test } from '@jest/globals';
import exifr from 'exifr';
import { strFromU8, unzipSync } from 'fflate';
import { PNG } from 'pngjs';
import { decode as decodeTiffFile } from 'tiff';
import { FloatType } from 'three';
import { EXRLoader } from 'three/addons/loaders/EXRLoader.js';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { nodePlatform } from '@/engine/nodePlatform';
import { paint, waves } from '@/tests/paint';
import { decodeImage } from '../decodeImage';
import { encodeOpenRaster } from './encodeOpenRaster';
import { encodePicture } from './encodePicture';
import { type Metadata } from './exifBlock';

const platform = nodePlatform();
const texture = waves(5, 20);
const deep = paint(61, 43, (x, y) => [texture(x, y), texture(y, x), 0.3], 65535);
const floats: EncodedImage = {
  width: 61,
  height: 43,
  white: 1,
  data: Float32Array.from({ length: 61 * 43 * 3 }, (_, i) => linearToSrgb(((i % 61) - 5) / 12)),
};
const metadata: Metadata = {
  facts: {
    seconds: 1 / 960,
    aperture: 2.8,
    iso: 400,
    focalLength: 24,
    taken: '2026-10-03T18:52:07',
    camera: 'Marsh stand-in camera',
    lens: 'Fen 24 mm',
    whiteBalance: 'set',
  },
  title: 'Ferrow <tide> mill & "dusk"',
  disclosed: true,
};
const encode = (image: EncodedImage, kind: Parameters<typeof encodePicture>[1], about?: Metadata) =>
  encodePicture(image, kind, platform.encodeJpeg, 92, about);

// an independent reader of metadata (exifr) opens each
describe.each(['png', 'tiff', 'jpeg'] as const)('%s', (kind) => {
  test('keeps the EXIF of the reference', async () => {
    const bytes = Buffer.from(await encode(deep, kind, metadata));
    const read: unknown = await exifr.parse(bytes, {
      tiff: true,
      exif: true,
      icc: false,
      reviveValues: false,
      translateValues: false,
    });
    expect(read).toMatchObject({
      Model: 'Marsh stand-in camera',
      Software: 'Marsh',
      ExposureTime: expect.closeTo(1 / 960, 9),
      FNumber: 2.8,
      ISO: 400,
      FocalLength: 24,
      LensModel: 'Fen 24 mm',
      WhiteBalance: 1,
      DateTimeOriginal: '2026:10:03 18:52:07',
    });
  });

  test('says that it is a composite, when asked to (IPTC digital source type)', async () => {
    const bytes = Buffer.from(await encode(deep, kind, metadata));
    const read = (await exifr.parse(bytes, { xmp: true, tiff: true, mergeOutput: true })) as Record<
      string,
      unknown
    >;
    expect(read.DigitalSourceType).toBe('http://cv.iptc.org/newscodes/digitalsourcetype/compositeCapture');
    const silent = Buffer.from(await encode(deep, kind, { disclosed: false }));
    expect(silent.includes('compositeCapture')).toBe(false);
  });

  test('carries a profile, and opens here again as it was', async () => {
    const bytes = await encode(deep, kind, metadata);
    const icc = (await exifr.parse(Buffer.from(bytes), { icc: true, mergeOutput: false })) as {
      icc?: Record<string, unknown>;
    };
    expect(icc.icc).toMatchObject({ ColorSpaceData: 'RGB', ProfileDescription: 'sRGB' });
    const { image, facts } = await decodeImage(`a.${kind}`, bytes, platform);
    expect(facts.lens).toBe('Fen 24 mm');
    let sum = 0;
    for (let i = 0; i < image.data.length; i++)
      sum += Math.abs(image.data[i] / image.white - deep.data[i] / 65535);
    expect(sum / image.data.length).toBeLessThan(kind === 'jpeg' ? 0.02 : 1e-9);
  });
});

describe('floats', () => {
  test('TIFF holds linear light below black and above white (read by tiff)', async () => {
    const [page] = decodeTiffFile(await encode(floats, 'tiff', metadata));
    expect([page.width, page.height, page.bitsPerSample, page.sampleFormat]).toEqual([61, 43, 32, 3]);
    for (let i = 0; i < 300; i++) expect(page.data[i]).toBeCloseTo(((i % 61) - 5) / 12, 5);
    const { image } = await decodeImage('f.tif', await encode(floats, 'tiff', metadata), platform);
    for (let i = 0; i < 300; i++) expect(image.data[i]).toBeCloseTo(floats.data[i], 4);
  });

  test('OpenEXR holds them too (read by three), and opens here again', async () => {
    const bytes = await encode(floats, 'exr');
    const loader = new EXRLoader();
    loader.setDataType(FloatType);
    const { data } = loader.parse(bytes.slice().buffer);
    const at = 42 * 61 * 4;
    for (let x = 0; x < 61; x++) expect(data?.[at + x * 4]).toBeCloseTo(srgbToLinear(floats.data[x * 3]), 2);
    const { image } = await decodeImage('f.exr', bytes, platform);
    for (let i = 0; i < 300; i++) expect(image.data[i]).toBeCloseTo(floats.data[i], 2);
  });

  test('PNG and JPEG clip them', async () => {
    const png = PNG.sync.read(Buffer.from(await encode(floats, 'png')), { skipRescale: true });
    expect(png.depth).toBe(16);
    expect((await encode(floats, 'jpeg')).length).toBeGreaterThan(300);
  });
});

describe('OpenRaster', () => {
  const data = new Uint8Array(61 * 43 * 4).map((_, i) => (i % 4 === 3 ? 128 : i % 251));
  let file: Uint8Array;
  let parts: ReturnType<typeof unzipSync>;
  beforeAll(async () => {
    file = await encodeOpenRaster(
      [
        { name: 'Merge', data, opacity: 1, blend: 'normal', visible: true },
        { name: 'sky <left>', data, opacity: 0.4, blend: 'multiply', visible: false },
      ],
      deep,
    );
    parts = unzipSync(file);
  });

  test('begins with its media type, unpacked (OpenRaster baseline 0.0.5)', () => {
    expect(strFromU8(file.subarray(30, 38))).toBe('mimetype');
    expect(strFromU8(file.subarray(38, 54))).toBe('image/openraster');
  });

  test('lists the topmost layer first, with names, opacity and operator', () => {
    const xml = strFromU8(parts['stack.xml']);
    const layers = [
      ...xml.matchAll(
        /<layer name="([^"]*)" .*? opacity="([^"]*)" visibility="([^"]*)" composite-op="([^"]*)"/g,
      ),
    ];
    expect(layers.map((l) => l.slice(1))).toEqual([
      ['sky &lt;left&gt;', '0.4000', 'hidden', 'svg:multiply'],
      ['Merge', '1.0000', 'visible', 'svg:src-over'],
    ]);
  });

  test('its pictures open in an independent reader (pngjs)', () => {
    const layer = PNG.sync.read(Buffer.from(parts['data/layer0.png']));
    expect([layer.width, layer.height]).toEqual([61, 43]);
    expect([...layer.data.subarray(0, 8)]).toEqual([...data.subarray(0, 8)]);
    expect(PNG.sync.read(Buffer.from(parts['mergedimage.png'])).width).toBe(61);
    expect(PNG.sync.read(Buffer.from(parts['Thumbnails/thumbnail.png'])).width).toBeLessThanOrEqual(256);
  });
});
