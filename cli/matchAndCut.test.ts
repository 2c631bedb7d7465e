import { beforeAll, describe, expect, test } from '@jest/globals';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { encodePng } from '@/core/codecs/write/encodePng';
import { columns, environmentPicture, graded, GRADES } from '@/tests/knownGrade';
import { paint } from '@/tests/paint';
import { marsh, marshProcess } from '@/tests/runMarsh';

const folder = mkdtempSync(join(tmpdir(), 'marsh-cli-'));
const at = (name: string): string => join(folder, name);

describe('marsh match', () => {
  const kept = (name: string) => JSON.parse(readFileSync(at(name), 'utf8')) as MatchReported;
  interface MatchReported {
    readonly how: string;
    readonly scores: Record<'before' | 'after', { deltaE: number; chroma: number }>;
    readonly pixels: Record<'before' | 'after', { mean: number }>;
    readonly output: object;
  }

  beforeAll(async () => {
    const picture = environmentPicture('park', 300, 200);
    writeFileSync(at('plain.png'), await encodePng(picture));
    writeFileSync(at('warm.png'), await encodePng(graded(picture, GRADES.warmer)));
    writeFileSync(at('warm-part.png'), await encodePng(columns(graded(picture, GRADES.warmer), 40, 290)));
  });

  test.each(['warm.png', 'warm-part.png'])(
    'makes a picture look like %s, pixel on pixel, and reports',
    async (to) => {
      const ran = await marsh(
        ...[
          'match',
          at('plain.png'),
          '--to',
          at(to),
          '--out',
          at('matched.png'),
          '--report',
          at('match.json'),
        ],
      );
      expect(ran).toMatchObject({ code: 0, out: '' });
      const png = PNG.sync.read(readFileSync(at('matched.png')), { skipRescale: true });
      expect([png.width, png.height, png.depth]).toEqual([300, 200, 16]);
      const { how, scores, pixels, output } = kept('match.json');
      expect(how).toBe('paired');
      expect(output).toEqual({ file: at('matched.png'), width: 300, height: 200 });
      expect(pixels.after.mean).toBeLessThan(pixels.before.mean / 4);
      expect(scores.after.deltaE).toBeLessThan(scores.before.deltaE / 3);
    },
    60_000,
  );

  test('a cut-out keeps its opacity, and what is clear has no say', async () => {
    const plate = new PNG({ width: 120, height: 90 });
    for (let i = 0; i < 120 * 90; i++) {
      const inside = Math.hypot((i % 120) - 60, Math.floor(i / 120) - 45) < 30;
      const tone = 90 + (i % 7) * 8;
      plate.data.set(inside ? [tone, tone, tone, 255] : [255, 0, 255, 0], 4 * i);
    }
    writeFileSync(at('plate.png'), PNG.sync.write(plate));
    const files = ['match', at('plate.png'), '--to', at('warm.png'), '--out', at('plate-matched.png')];
    expect(await marshProcess(...files, '--report', at('plate.json'))).toMatchObject({ code: 0 });
    const png = PNG.sync.read(readFileSync(at('plate-matched.png')));
    expect([png.data[4 * (45 * 120 + 60) + 3], png.data[3]]).toEqual([255, 0]);
    expect(kept('plate.json').how).toBe('alike');
    // grey outside of magenta that nobody sees: the plate's own chroma is nil before
    expect(kept('plate.json').scores.before.chroma).toBeLessThan(0.05);
  }, 60_000);

  test('half of it lies half way, and none of it changes nothing', async () => {
    const at0 = async (strength: string): Promise<number> => {
      const files = ['match', at('plain.png'), '--to', at('warm.png'), '--out', at('part.png')];
      const ran = await marsh(...files, '--strength', strength, '--report', at('part.json'));
      expect(ran.code).toBe(0);
      return kept('part.json').pixels.after.mean;
    };
    const [none, half] = [await at0('0'), await at0('0.5')];
    expect(none).toBeCloseTo(kept('part.json').pixels.before.mean, 2);
    expect(half / none).toBeGreaterThan(0.4);
    expect(half / none).toBeLessThan(0.6);
  }, 60_000);
});

describe('marsh cut', () => {
  const dabs = (is: 'this' | 'not', points: readonly (readonly [number, number])[]) => ({
    is,
    size: 10,
    points,
  });
  const written = (name: string, list: readonly object[]): string => {
    writeFileSync(at(name), JSON.stringify({ dabs: list }));
    return at(name);
  };
  const onDisc = () =>
    written('disc.json', [
      dabs('this', [
        [70, 60],
        [90, 60],
      ]),
      dabs('not', [
        [10, 10],
        [140, 10],
      ]),
    ]);

  beforeAll(async () => {
    // a bright disc of radius 30 about (80, 60) on a dark wall, both with a little texture
    const grain = (x: number, y: number): number => 0.02 * Math.sin(1.7 * x + 2.3 * y);
    const image = paint(160, 120, (x, y) => {
      const inside = Math.hypot(x - 80, y - 60) < 30;
      const v = grain(x, y);
      return inside ? [0.8 + v, 0.6 + v, 0.2 + v] : [0.15 + v, 0.2 + v, 0.3 + v];
    });
    writeFileSync(at('disc.png'), await encodePng(image));
  });

  test('writes what lies under the dabs with straight opacity, and reports', async () => {
    const files = ['--dabs', onDisc(), '--out', at('cut.png'), '--report', at('cut-report.json')];
    expect(await marshProcess('cut', at('disc.png'), ...files)).toMatchObject({ code: 0, out: '' });
    const png = PNG.sync.read(readFileSync(at('cut.png')));
    expect([png.width, png.height, png.colorType]).toEqual([160, 120, 6]);
    const wrong = [...Array(160 * 120).keys()].filter((i) => {
      const inside = Math.hypot((i % 160) - 80, Math.floor(i / 160) - 60) < 30;
      return inside !== png.data[4 * i + 3] > 127;
    });
    expect(wrong.length).toBeLessThan(20);
    // the disc's own colour, not mixed with the wall's
    expect(png.data[4 * (60 * 160 + 80)]).toBeGreaterThan(195);
    const report = JSON.parse(readFileSync(at('cut-report.json'), 'utf8')) as Record<string, number>;
    expect(report).toMatchObject({ output: { file: at('cut.png'), width: 160, height: 120 } });
    expect(report.covered).toBeCloseTo((Math.PI * 30 * 30) / (160 * 120), 2);
  }, 60_000);

  test.each([
    ['no dab on the thing', () => written('none.json', [dabs('not', [[1, 1]])]), 'says “this”'],
    ['dabs beside the picture', () => written('off.json', [dabs('this', [[900, 900]])]), 'upright picture'],
    ['no such file', () => at('missing.json'), 'cannot be opened'],
  ])(
    '%s ends with a sentence',
    async (_, file, part) => {
      const ran = await marsh('cut', at('disc.png'), '--dabs', file(), '--out', at('never.png'));
      expect(ran.code).toBe(1);
      expect(ran.err).toContain(part);
      expect(ran.err).not.toContain('    at ');
      expect(existsSync(at('never.png'))).toBe(false);
    },
    60_000,
  );
});
