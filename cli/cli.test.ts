import { beforeAll, describe, expect, test } from '@jest/globals';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import jpeg from 'jpeg-js';
import { PNG } from 'pngjs';
import { decode as decodeTiffFile } from 'tiff';
import { PLAIN_LENS } from '@/camera/lens';
import { shootView } from '@/camera/shootView';
import { openProjectFile } from '@/core/codecs/openProjectFile';
import { packProject } from '@/core/codecs/packProject';
import { decodeImage } from '@/core/codecs/decodeImage';
import { encodePng } from '@/core/codecs/write/encodePng';
import { nodePlatform } from '@/engine/nodePlatform';
import { millAtDusk } from '@/tests/knownScene';
import { emptyProject } from '@/core/recipe/emptyProject';
import { addFiles } from '@/store/addFiles';
import { deliver, exportProject } from '@/store/deliver';
import { addFrameLayer } from '@/store/edits/layers';
import { addStroke } from '@/store/edits/regions';
import { exposed } from '@/tests/exposed';
import { inlinePool } from '@/tests/inlinePool';
import { liveBench, until } from '@/tests/liveBench';
import { flat } from '@/tests/paint';
import { seenFrom } from '@/tests/nearAndFar';
import { marsh, marshProcess } from '@/tests/runMarsh';
import { smallBracket } from '@/tests/smallBracket';
import { smallProject } from '@/tests/smallProject';
import { tiffOf } from '@/tests/tiffOf';
import { type MergeCommand, readArguments } from './readArguments';

const folder = mkdtempSync(join(tmpdir(), 'marsh-cli-'));
const at = (name: string): string => join(folder, name);

beforeAll(async () => {
  for (const { name, buffer } of await smallBracket()) writeFileSync(at(name), buffer);
  writeFileSync(at('wall.png'), await encodePng(flat(600, 400, 0.5)));
  writeFileSync(at('small.png'), await encodePng(flat(200, 400, 0.5)));
  writeFileSync(at('broken.jpg'), Uint8Array.of(0xff, 0xd8, 0xff, 0));
}, 60_000);

const shots = [0, 1, 2].map((i) => at(`shot-${i}.jpg`));

interface BentReport {
  readonly frames: {
    fitted: boolean;
    matrix: number[];
    bend?: { px: { typical: number; most: number }; unsure: number; agreement: { after: number } };
  }[];
}

interface Report {
  readonly kind: string;
  readonly reference: number;
  readonly frames: {
    file: string;
    fitted: boolean;
    why?: string;
    matrix: number[];
    rotation?: number[];
    ev: number;
    evSource: string;
    residualPx: { typical: number; worst: number };
  }[];
  readonly output: { file: string; width: number; height: number; offset: number[] };
  readonly findings: {
    id: string;
    label: string;
    value: number;
    unit: string;
    verdict: string;
    limit: number;
    why: string;
  }[];
  readonly timesMs: Record<string, number>;
  readonly peakMb: number;
}

/** What only some kinds report. */
interface Other {
  readonly focalPx?: number;
  readonly projection?: string;
}

describe('marsh merge', () => {
  test('merges a bracket to a 16-bit PNG and reports by the contract', async () => {
    const ran = await marshProcess(
      'merge',
      ...shots,
      '--kind',
      'bracket',
      '--out',
      at('a.png'),
      '--report',
      at('a.json'),
    );
    expect(ran).toMatchObject({ code: 0, out: '' });
    const png = PNG.sync.read(readFileSync(at('a.png')), { skipRescale: true });
    expect([png.width, png.height, png.depth]).toEqual([600, 400, 16]);
    const report = JSON.parse(readFileSync(at('a.json'), 'utf8')) as Report;
    expect(report).toMatchObject({
      kind: 'bracket',
      reference: 1,
      output: { file: at('a.png'), width: 600, height: 400, offset: [0, 0] },
    });
    expect(report.frames.map((f) => [f.fitted, f.evSource, Math.round(f.ev)])).toEqual([
      [true, 'exif', -2],
      [true, 'exif', 0],
      [true, 'exif', 2],
    ]);
    // frame i shows six pixels further right of the scene per index: the same thing lies farther left in it
    expect(report.frames[0].matrix[2]).toBeCloseTo(6, 1);
    expect(report.frames[2].matrix[2]).toBeCloseTo(-6, 1);
    expect(report.frames[1].matrix).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1]);
    expect(Object.keys(report.timesMs)).toEqual(['decode', 'fit', 'merge', 'encode', 'total']);
    expect(report.peakMb).toBeGreaterThan(30);
    for (const f of report.findings) expect(['pass', 'watch', 'fail']).toContain(f.verdict);
  }, 60_000);

  test('writes what the ending says, with the reference that was asked for', async () => {
    const tif = await marsh(
      'merge',
      ...shots,
      '--kind',
      'bracket',
      '--out',
      at('b.tif'),
      '--reference',
      '2',
      '--report',
      at('b.json'),
    );
    expect(tif.code).toBe(0);
    const [page] = decodeTiffFile(readFileSync(at('b.tif')));
    expect([page.width, page.bitsPerSample]).toEqual([600, 16]);
    expect((JSON.parse(readFileSync(at('b.json'), 'utf8')) as Report).reference).toBe(2);
  }, 60_000);

  test('a file that cannot be read is one sentence, and the others go on', async () => {
    // PackBits of two bytes each that stand for 128, in a file that says it is small (TIFF 6.0, section 9)
    const bomb = tiffOf(
      64,
      64,
      32773,
      new Uint8Array(16e6).map((_, i) => (i % 2 === 0 ? 129 : 7)),
    );
    writeFileSync(at('bomb.tif'), bomb);
    const ran = await marshProcess(
      ...['merge', at('bomb.tif'), shots[0], at('broken.jpg'), shots[1], shots[2]],
      ...['--kind', 'bracket', '--out', at('g.png'), '--report', at('g.json')],
    );
    expect(ran.code).toBe(0);
    const sentences = ran.err.split('\n').filter((line) => line.startsWith('“'));
    expect(sentences).toEqual([expect.stringContaining('“broken.jpg” is damaged')]);
    const { frames, reference, peakMb } = JSON.parse(readFileSync(at('g.json'), 'utf8')) as Report;
    expect(frames.map((f) => f.fitted)).toEqual([false, true, false, true, true]);
    expect(frames[2].why).toContain('“broken.jpg” is damaged');
    expect(reference).toBe(3);
    expect(peakMb).toBeLessThan(1000);
  }, 60_000);

  test('a file that is there twice is used once, and said', async () => {
    const twice = at('again.jpg');
    writeFileSync(twice, readFileSync(shots[0]));
    const ran = await marsh(
      ...['merge', ...shots, twice, '--kind', 'bracket', '--motion', 'shift'],
      ...['--out', at('t.jpg'), '--report', at('t.json')],
    );
    expect(ran.code).toBe(0);
    expect([...readFileSync(at('t.jpg')).subarray(0, 3)]).toEqual([0xff, 0xd8, 0xff]);
    const report = JSON.parse(readFileSync(at('t.json'), 'utf8')) as Report;
    expect(report.frames.map((f) => f.fitted)).toEqual([...shots.map(() => true), false]);
    expect(report.frames[shots.length].why).toContain('is the same file as');
  }, 60_000);

  test('a frame that cannot be fitted is left out with its reason', async () => {
    const ran = await marsh(
      'merge',
      ...shots,
      at('wall.png'),
      at('small.png'),
      '--kind',
      'bracket',
      '--out',
      at('c.exr'),
      '--report',
      at('c.json'),
    );
    expect(ran.code).toBe(0);
    expect([...readFileSync(at('c.exr')).subarray(0, 4)]).toEqual([0x76, 0x2f, 0x31, 0x01]);
    const { frames } = JSON.parse(readFileSync(at('c.json'), 'utf8')) as Report;
    expect(frames.map((f) => f.fitted)).toEqual([true, true, true, false, false]);
    expect(frames[3].why).toContain('wall.png');
    expect(frames[4].why).toContain('200 × 400');
  }, 60_000);

  test.each([
    [
      ['merge', 'missing.jpg', 'other.jpg', '--kind', 'bracket', '--out', 'x.png'],
      /“missing\.jpg” cannot be opened/,
    ],
    [
      ['merge', at('broken.jpg'), shots[0], '--kind', 'bracket', '--out', at('x.png')],
      /“broken\.jpg” is damaged/,
    ],
    [
      ['merge', ...shots, at('broken.jpg'), '--reference', '3', '--kind', 'bracket', '--out', at('x.png')],
      /The reference cannot be read\. “broken\.jpg” is damaged/,
    ],
    [
      ['merge', ...shots, '--kind', 'bracket', '--out', '/nowhere/at/all.png'],
      /^“\/nowhere\/at\/all\.png” cannot be written/,
    ],
    [
      ['merge', ...shots, '--kind', 'bracket', '--out', at('x.png'), '--report', '/nowhere/at/all.json'],
      /^“\/nowhere\/at\/all\.json” cannot be written/,
    ],
    [['merge', shots[0], '--kind', 'bracket', '--out', at('x.png')], /needs at least two frames/],
    [['merge', ...shots, '--kind', 'bracket', '--out', at('x.bmp')], /has no ending that Marsh writes/],
    [['paint'], /Say “merge”, “render”, “match”, “cut”, “place” or “inspect”/],
    [['render', 'gone.marsh', '--out', at('x.png')], /“gone\.marsh” cannot be opened/],
    [['render', at('broken.jpg'), '--out', at('x.png')], /“.*broken\.jpg” is damaged or is not a Marsh/],
  ])(
    '%j ends with one sentence and no trace',
    async (args, says) => {
      const { code, out, err } = await marsh(...args);
      expect([code, out]).toEqual([1, '']);
      expect(err).toMatch(says);
      expect(err).not.toMatch(/\n\s+at /);
    },
    60_000,
  );
});

describe('marsh merge --bend', () => {
  test('lays a frame that no plane lays, says by how much it was bent, and keeps the matrix of the plane', async () => {
    const far = (x: number): number => 8 * Math.sin(x / 50);
    const scene = { width: 420, height: 280, near: [-7, 6], far } as const;
    for (const [from, seed] of [
      ['reference', 1],
      ['frame', 2],
    ] as const)
      writeFileSync(at(`${from}.png`), await encodePng(seenFrom(scene, from, 0, seed)));
    const files = [at('reference.png'), at('frame.png')];
    const ask = async (...more: string[]): Promise<BentReport> => {
      const { code } = await marsh(
        ...['merge', ...files, '--kind', 'bracket', '--reference', '0', '--out', at('bent.png')],
        ...['--report', at('bent.json'), ...more],
      );
      expect(code).toBe(0);
      return JSON.parse(readFileSync(at('bent.json'), 'utf8')) as BentReport;
    };
    const plane = await ask();
    expect(plane.frames[1].fitted).toBe(false);
    const { frames } = await ask('--bend');
    expect(frames[1]).toMatchObject({ fitted: true, matrix: plane.frames[1].matrix });
    expect(frames[1].bend?.agreement.after).toBeGreaterThan(0.9);
    expect(frames[1].bend?.px.most).toBeGreaterThan(6);
    expect(frames[0].bend).toBeUndefined();
  }, 100_000);

  test('is refused where frames lie on no common grid', () => {
    const ask = ['merge', 'a.jpg', 'b.jpg', '--kind', 'panorama', '--out', 'o.png', '--bend'];
    expect(() => readArguments(ask)).toThrow('--bend does not apply to a panorama');
  });
});

describe('marsh merge --method radiance', () => {
  test('a float TIFF holds the light of the reference, also beyond its white; --tone maps it', async () => {
    const light = ['merge', ...shots, '--kind', 'bracket', '--method', 'radiance'];
    expect((await marsh(...light, '--float', '--out', at('r.tif'))).code).toBe(0);
    const [page] = decodeTiffFile(readFileSync(at('r.tif')));
    expect([page.width, page.height, page.bitsPerSample]).toEqual([600, 400, 32]);
    const data = page.data as Float32Array;
    // the reference itself, read by another decoder: where it is well exposed the map is its light (IEC 61966-2-1)
    const shot = jpeg.decode(readFileSync(shots[1]), { useTArray: true });
    const [map, own]: number[][] = [[], []];
    for (let y = 20; y < 380; y++)
      for (let x = 20; x < 580; x++) {
        const [i, g] = [3 * (600 * y + x) + 1, shot.data[4 * (600 * y + x) + 1]];
        if (g < 60 || g > 200) continue;
        map.push(data[i]);
        own.push(((g / 255 + 0.055) / 1.055) ** 2.4);
      }
    const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
    expect(map.length).toBeGreaterThan(10_000);
    expect(Math.abs(mean(map) / mean(own) - 1)).toBeLessThan(0.02);

    expect((await marsh(...light, '--tone', '--float', '--out', at('t.tif'))).code).toBe(0);
    const [toned] = decodeTiffFile(readFileSync(at('t.tif')));
    expect((toned.data as Float32Array).every((v) => v <= 1)).toBe(true);
    expect(mean([...(toned.data as Float32Array)])).not.toBeCloseTo(mean([...data]), 3);
  }, 120_000);
});

describe('marsh render', () => {
  test('draws a project file as the bench delivers it, to the bit, and smaller on request', async () => {
    const pool = inlinePool(2);
    const bench = liveBench(emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z'), pool);
    await addFiles(
      bench,
      shots.map((name) => ({ name, read: () => Promise.resolve(new Uint8Array(readFileSync(name))) })),
    );
    const state = () => bench.store.getState();
    await until(bench, () => state().finished !== undefined && state().work === undefined);
    const stroke = { action: 'reveal', size: 0.2, softness: 1, flow: 1, points: [[0.4, 0.3, 1]] } as const;
    bench.actions.edit('layer', addFrameLayer('l1', state().history.project.frames[2]));
    bench.actions.edit('painted', addStroke({ kind: 'layer', layer: 'l1' }, stroke));
    bench.actions.edit('exposed', exposed(0.4));
    await until(bench, () => state().work === undefined && state().finished !== undefined);
    const delivered = await deliver(bench, { kind: 'png', quality: 90, disclosed: false });
    const packed = await exportProject(bench);
    await bench.actions.close();
    if (!delivered || !packed) throw new Error('nothing was delivered');
    writeFileSync(at('p.marsh'), packed.bytes);
    const ran = await marshProcess('render', at('p.marsh'), '--out', at('p.png'), '--report', at('p.json'));
    expect(ran).toMatchObject({ code: 0, out: '' });
    const [file, own] = [readFileSync(at('p.png')), Buffer.from(delivered.bytes)].map((bytes) =>
      PNG.sync.read(bytes, { skipRescale: true }),
    );
    expect([file.width, file.height]).toEqual([own.width, own.height]);
    expect(Buffer.compare(Buffer.from(file.data.buffer), Buffer.from(own.data.buffer))).toBe(0);
    const report = JSON.parse(readFileSync(at('p.json'), 'utf8')) as Report;
    expect(report.findings.map((f) => f.id)).toContain('merge.halo');
    await marsh('render', at('p.marsh'), '--out', at('s.png'), '--size', '250');
    const small = PNG.sync.read(readFileSync(at('s.png')), { skipRescale: true });
    expect([small.width, small.depth]).toEqual([250, 16]);
  }, 120_000);

  test('a picture whose project has lost one of its plates is not drawn without it', async () => {
    const pool = inlinePool(2);
    const { project, originals } = await smallProject(pool);
    const plate = project.frames[project.frames.length - 1];
    const own = Uint8Array.from(originals.get(plate.hash) ?? []);
    own[own.length >> 1] ^= 0x5a;
    writeFileSync(
      at('bad.marsh'),
      packProject({ project, originals: new Map([...originals, [plate.hash, own]]) }),
    );
    const refused = await marsh('render', at('bad.marsh'), '--out', at('bad.png'));
    expect([refused.code, refused.out, existsSync(at('bad.png'))]).toEqual([1, '', false]);
    expect(refused.err).toContain(`the original of “${plate.file}” has changed`);
    pool.close();
  }, 120_000);

  test('what was merged leaves as a project that opens again, merged the same way', async () => {
    const merged = await marsh(
      ...['merge', ...shots, '--kind', 'bracket', '--method', 'radiance', '--reference', '0'],
      ...['--out', at('m.png'), '--project', at('m.marsh')],
    );
    expect(merged.code).toBe(0);
    const opened = await openProjectFile('m.marsh', new Blob([readFileSync(at('m.marsh'))]));
    const { project } = await opened.read();
    const [set] = project.sets;
    expect(set).toMatchObject({ kind: 'bracket', method: 'radiance', referenceChosen: true });
    expect(project.frames.find((f) => f.id === set.reference)?.file).toBe('shot-0.jpg');
    const drawn = await marsh('render', at('m.marsh'), '--out', at('n.png'));
    expect(drawn.code).toBe(0);
    const [first, again] = ['m.png', 'n.png'].map((name) =>
      PNG.sync.read(readFileSync(at(name)), { skipRescale: true }),
    );
    expect([again.width, again.height]).toEqual([first.width, first.height]);
    expect(Buffer.compare(Buffer.from(first.data.buffer), Buffer.from(again.data.buffer))).toBe(0);
  }, 180_000);

  test('a radiance map and its project hold the same light; the tone map waits there, switched off', async () => {
    const merged = await marsh(
      ...['merge', ...shots, '--kind', 'bracket', '--method', 'radiance'],
      ...['--out', at('l.exr'), '--project', at('l.marsh')],
    );
    expect(merged.code).toBe(0);
    const opened = await openProjectFile('l.marsh', new Blob([readFileSync(at('l.marsh'))]));
    const [set] = (await opened.read()).project.sets;
    expect(set.edits).toMatchObject([{ kind: 'toneMap', on: false }]);
    expect((await marsh('render', at('l.marsh'), '--out', at('n.exr'))).code).toBe(0);
    const [first, again] = await Promise.all(
      ['l.exr', 'n.exr'].map((name) => decodeImage(name, readFileSync(at(name)), nodePlatform())),
    );
    expect(Buffer.compare(Buffer.from(first.image.data.buffer), Buffer.from(again.image.data.buffer))).toBe(
      0,
    );
  }, 180_000);
});

describe('marsh merge, the other kinds', () => {
  const reported = async (
    kind: string,
    files: readonly string[],
    ...more: string[]
  ): Promise<Report & Other> => {
    const ran = await marsh(
      'merge',
      ...files,
      '--kind',
      kind,
      '--out',
      at('k.png'),
      '--report',
      at('k.json'),
      ...more,
    );
    expect(ran).toMatchObject({ code: 0, out: '' });
    return JSON.parse(readFileSync(at('k.json'), 'utf8')) as Report & Other;
  };

  test('a panorama reports its focal length, projection and rotations', async () => {
    const files: string[] = [];
    for (const [i, yaw] of [-11, 0, 10.5].entries()) {
      const { image } = shootView(
        { light: millAtDusk(), field: { kind: 'flat', across: 63 } },
        {
          width: 400,
          height: 480,
          lens: { ...PLAIN_LENS, focalLength: (900 * 36) / 400 },
          stand: { yaw, pitch: 0.3 * i, roll: 0.2 },
          seconds: 0.4,
          iso: 100,
          seed: i + 1,
        },
      );
      files.push(at(`turn-${i}.png`));
      writeFileSync(files[i], await encodePng(image));
    }
    const report = await reported('panorama', files, '--projection', 'cylindrical');
    expect(Math.abs((report.focalPx ?? 0) / 900 - 1)).toBeLessThan(0.005);
    expect(report.projection).toBe('cylindrical');
    expect(report.output.offset).toBeUndefined();
    for (const f of report.frames) expect(f.rotation).toHaveLength(9);
    // K R_b R_aᵀ K⁻¹ moves the middle of the reference by focal · tan(yaw)
    const [first, second] = [report.frames[report.reference], report.frames[2]];
    expect(first.matrix.slice(0, 3)).toEqual([1, 0, 0]);
    const [m, x, y] = [second.matrix, 199.5, 239.5];
    const u = (m[0] * x + m[1] * y + m[2]) / (m[6] * x + m[7] * y + m[8]);
    expect(Math.abs(199.5 - u - 900 * Math.tan((10.5 * Math.PI) / 180))).toBeLessThan(1.5);
  }, 120_000);

  test('developments and a stack keep the reference’s grid', async () => {
    const same = [at('dev-0.png'), at('dev-1.png')];
    for (const [i, file] of same.entries())
      writeFileSync(file, await encodePng(flat(200, 140, 0.3 + 0.3 * i)));
    const developed = await reported('developments', same);
    expect(developed.frames.map((f) => f.matrix)).toEqual([
      [1, 0, 0, 0, 1, 0, 0, 0, 1],
      [1, 0, 0, 0, 1, 0, 0, 0, 1],
    ]);
    expect(developed.output).toMatchObject({ width: 200, height: 140, offset: [0, 0] });
    const stack = await reported('stack', shots);
    expect(stack.kind).toBe('stack');
    expect(stack.findings.map((f) => f.id)).toContain('merge.rejected');
    expect(stack.output).toMatchObject({ width: 600, height: 400, offset: [0, 0] });
  }, 120_000);

  test('frames that share nothing end with a sentence that names one', async () => {
    const { code, err } = await marsh(
      ...['merge', at('wall.png'), shots[0], '--kind', 'panorama', '--out', at('n.png')],
    );
    expect(code).toBe(1);
    expect(err).toMatch(/do not overlap: nothing in “.*” was found again/);
  }, 60_000);
});

describe('marsh inspect', () => {
  test('prints the proposed set and the facts of every frame, also of one that cannot be read', async () => {
    const { code, out } = await marshProcess('inspect', ...shots, at('broken.jpg'));
    expect(code).toBe(0);
    const report = JSON.parse(out) as {
      set: object;
      frames: { readable: boolean; ev?: number; why?: string; facts?: object; findings?: object[] }[];
    };
    expect(report.set).toMatchObject({ kind: 'bracket', order: [0, 1, 2], reference: 1 });
    expect(report.frames.map((f) => f.readable)).toEqual([true, true, true, false]);
    expect(report.frames[0].facts).toMatchObject({ aperture: 8, iso: 100 });
    expect(report.frames[3].why).toContain('“broken.jpg”');
  }, 60_000);

  test('says so when nothing can be read', async () => {
    const { code, err } = await marshProcess('inspect', at('broken.jpg'));
    expect(code).toBe(1);
    expect(err).toContain('“broken.jpg” is damaged');
  }, 60_000);
});

describe('arguments', () => {
  const merge = (...extra: string[]) =>
    readArguments([
      'merge',
      'a.jpg',
      'b.jpg',
      '--kind',
      'bracket',
      '--out',
      'o.png',
      ...extra,
    ]) as MergeCommand;
  test('are read', () => {
    expect(merge()).toEqual({
      command: 'merge',
      kind: 'bracket',
      projection: 'auto',
      files: ['a.jpg', 'b.jpg'],
      out: 'o.png',
      report: undefined,
      reference: undefined,
      motion: 'auto',
      ...{ method: 'fusion', tone: false, float: false, project: undefined, region: undefined, bend: false },
    });
    expect(merge('--method', 'radiance', '--tone')).toMatchObject({ method: 'radiance', tone: true });
    expect(readArguments(['render', 'a.marsh', '--out', 'o.png', '--size', '900'])).toMatchObject({
      ...{ command: 'render', project: 'a.marsh', size: 900 },
    });
    expect(merge('--reference', '1', '--motion', 'similarity')).toMatchObject({
      reference: 1,
      motion: 'similarity',
    });
    expect(readArguments(['match', 'a.jpg', '--to', 'b.jpg', '--out', 'o.tif'])).toMatchObject({
      ...{ command: 'match', picture: 'a.jpg', reference: 'b.jpg', out: 'o.tif', strength: 1 },
    });
    expect(() => readArguments(['match', 'a', '--to', 'b', '--out', 'o.png', '--strength', '2'])).toThrow(
      '0 to 1',
    );
    expect(() => readArguments(['match', 'a', '--out', 'o.png'])).toThrow('--to');
    expect(readArguments(['cut', 'a.jpg', '--dabs', 'd.json', '--out', 'o.png'])).toMatchObject({
      ...{ command: 'cut', picture: 'a.jpg', dabs: 'd.json', out: 'o.png' },
    });
    expect(() => readArguments(['cut', 'a.jpg', '--dabs', 'd.json', '--out', 'o.jpg'])).toThrow('no PNG');
    expect(() => readArguments(['cut', 'a.jpg', '--out', 'o.png'])).toThrow('--dabs');
    expect(readArguments(['inspect', 'a.jpg'])).toEqual({ command: 'inspect', files: ['a.jpg'] });
  });
  test.each([
    [['--reference', '2'], /--reference 2 names no frame/],
    [['--reference', 'first'], /names no frame/],
    [['--motion', 'wobble'], /no way to move/],
    [['--projection', 'flat'], /does not apply to a bracket/],
    [['--method', 'glue'], /no way to merge/],
    [['--tone'], /add --method radiance/],
    [['--float'], /with the ending \.tif/],
    [['--speed', '9'], /Usage/],
  ])('%j is refused', (extra, says) => expect(() => merge(...extra)).toThrow(says));
  test('a kind that does not exist is refused, with those that do', () =>
    expect(() => readArguments(['merge', 'a', '--kind', 'collage', '--out', 'o.png'])).toThrow(
      /“collage” is no kind of set: use --kind with one of bracket, developments, focus/,
    ));
  test('a panorama may name its projection', () => {
    const read = (projection: string) =>
      readArguments(['merge', 'a', 'b', '--kind', 'panorama', '--out', 'o.png', '--projection', projection]);
    expect(read('panini')).toMatchObject({ kind: 'panorama', projection: 'panini' });
    expect(() => read('globe')).toThrow(/“globe” is no projection/);
  });
});
