import { beforeAll, describe, expect, test } from '@jest/globals';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { deltaE2000, labOf } from '@/core/colour/deltaE';
import { srgbToLinear } from '@/core/raster/srgb';
import { encodePng } from '@/core/codecs/write/encodePng';
import { flat } from '@/tests/paint';
import { marsh, marshProcess } from '@/tests/runMarsh';
import { readArguments } from './readArguments';

const folder = mkdtempSync(join(tmpdir(), 'marsh-place-'));
const at = (name: string): string => join(folder, name);
const truth = (name: string): string => `tests/truth/ground/${name}`;

interface Case {
  readonly foot: readonly number[];
  readonly plateFoot: readonly number[];
  readonly height: number;
  readonly facts: object;
}
const CASES = JSON.parse(readFileSync(truth('facts.json'), 'utf8')) as Record<'heron' | 'pool', Case>;

/** A picture's values 0…1. */
function read(file: string): { width: number; height: number; at: (i: number, c: number) => number } {
  const png = PNG.sync.read(readFileSync(file), { skipRescale: true });
  const most = png.depth === 16 ? 65535 : 255;
  return { width: png.width, height: png.height, at: (i, c) => png.data[4 * i + c] / most };
}

/** Mean CIEDE2000 of a result to the truth: where the thing is, and where it changes what it stands on; and how many other pixels changed. */
function errors(name: string, result: string) {
  const [background, wanted, covered, own] = [
    read(truth(`${name}-background.png`)),
    read(truth(`${name}-truth.png`)),
    read(truth(`${name}-covered.png`)),
    read(result),
  ];
  const lab = (of: typeof own, i: number) =>
    labOf(srgbToLinear(of.at(i, 0)), srgbToLinear(of.at(i, 1)), srgbToLinear(of.at(i, 2)));
  const sums = { inside: [0, 0], zone: [0, 0], untouched: [0, 0], elsewhere: [0, 0] };
  const add = (of: number[], value: number): void => {
    of[0] += value;
    of[1]++;
  };
  for (let i = 0; i < own.width * own.height; i++) {
    const [b, t, o] = [lab(background, i), lab(wanted, i), lab(own, i)];
    const share = covered.at(i, 0);
    const changed = Math.abs(srgbToLinear(wanted.at(i, 1)) / srgbToLinear(background.at(i, 1)) - 1) > 0.08;
    if (share > 0.9) add(sums.inside, deltaE2000(o, t));
    else if (share === 0 && changed) {
      add(sums.zone, deltaE2000(o, t));
      add(sums.untouched, deltaE2000(b, t));
    } else if (share === 0) add(sums.elsewhere, deltaE2000(o, b));
  }
  const mean = ([sum, count]: number[]): number => sum / count;
  return {
    inside: mean(sums.inside),
    zone: mean(sums.zone),
    untouched: mean(sums.untouched),
    elsewhere: mean(sums.elsewhere),
  };
}

/** Places a plate of a case. @param facts null for none */
async function placed(name: 'heron' | 'pool', out: string, facts: object | null, ...more: string[]) {
  const { foot, plateFoot, height } = CASES[name];
  writeFileSync(at('facts.json'), JSON.stringify(facts ?? {}));
  const ran = await marsh(
    ...['place', truth(`${name}-background.png`), truth(`${name}-plate.png`)],
    ...['--foot', foot.join(','), '--plate-foot', plateFoot.join(','), '--height', `${height}`],
    ...['--facts', at('facts.json'), '--out', at(out), '--report', at('report.json'), ...more],
  );
  expect(ran).toMatchObject({ code: 0, out: '' });
  return JSON.parse(readFileSync(at('report.json'), 'utf8')) as {
    readonly stand: object;
    readonly facts: Record<string, { how: string }>;
    readonly output: object;
    readonly heightPx: number;
  };
}

describe('marsh place, against a ray-traced truth', () => {
  test('the heron in afternoon sun comes far nearer than pasted, and its shadow lies there', async () => {
    const report = await placed('heron', 'heron.png', CASES.heron.facts, '--project', at('heron.marsh'));
    expect(report.output).toEqual({ file: at('heron.png'), width: 640, height: 400 });
    expect(report.stand).toMatchObject({ relight: 1, shadow: 1, water: false });
    expect(report.facts).toMatchObject({ light: { how: 'given' }, 'light.bounce': { how: 'estimated' } });
    const { inside, zone, untouched, elsewhere } = errors('heron', at('heron.png'));
    // pasted as it came: 15.6 (with its light changed by nothing), the zone of its shadow 9.0
    expect(inside).toBeLessThan(8);
    expect(untouched).toBeGreaterThan(8.5);
    expect(zone).toBeLessThan(0.8 * untouched);
    expect(elsewhere).toBeLessThan(0.5);
    // the project holds the same picture
    const again = await marshProcess('render', at('heron.marsh'), '--out', at('again.png'));
    expect(again.code).toBe(0);
    expect(readFileSync(at('again.png')).equals(readFileSync(at('heron.png')))).toBe(true);
  }, 120_000);

  test('without facts no light is made up, and the report says so', async () => {
    const report = await placed('heron', 'plain.png', null);
    expect(report.facts).toMatchObject({ light: { how: 'assumed' }, horizonRow: { how: 'assumed' } });
    expect(report.stand).toMatchObject({ relight: 0, shadow: 0 });
    expect(report.heightPx).toBe(CASES.heron.height);
    const { inside, elsewhere } = errors('heron', at('plain.png'));
    expect(inside).toBeLessThan(15.6);
    expect(inside).toBeGreaterThan(errors('heron', at('heron.png')).inside);
    // only where the plate lies a pixel beside the truth
    expect(elsewhere).toBeLessThan(0.05);
  }, 120_000);

  test('in the pool it is mirrored', async () => {
    await placed('pool', 'pool.png', CASES.pool.facts);
    const { inside, zone, untouched, elsewhere } = errors('pool', at('pool.png'));
    expect(inside).toBeLessThan(8);
    expect(untouched).toBeGreaterThan(19);
    expect(zone).toBeLessThan(8.5);
    expect(elsewhere).toBeLessThan(0.5);
  }, 120_000);
});

describe('what cannot be placed is one sentence', () => {
  beforeAll(async () => writeFileSync(at('wall.png'), await encodePng(flat(60, 40, 0.5))));

  test.each([
    [['--height', '50'], /“.*wall.png” has no opacity.*marsh cut/, 'wall.png'],
    [['--height', '50', '--facts', 'nothing.json'], /“nothing.json” cannot be opened/, undefined],
  ] as const)('%j', async (more, sentence, plate) => {
    const ran = await marsh(
      ...['place', truth('heron-background.png'), plate ? at(plate) : truth('heron-plate.png')],
      ...['--foot', '160,222', ...more, '--out', at('none.png')],
    );
    expect(ran.code).toBe(1);
    expect(ran.err).toMatch(sentence);
  });

  test.each([
    [['place', 'a.png'], /Name the plate/],
    [['place', 'a.png', 'b.png', '--height', '4', '--out', 'c.png'], /--foot x,y/],
    [['place', 'a.png', 'b.png', '--foot', '4', '--height', '4', '--out', 'c.png'], /--foot 4 is no place/],
    [['place', 'a.png', 'b.png', '--foot', '4,5', '--out', 'c.png'], /how tall it is, once/],
    [
      ['place', 'a.png', 'b.png', '--foot', '4,5', '--height', '3', '--metres', '1', '--out', 'c.png'],
      /once/,
    ],
    [['place', 'a.png', 'b.png', '--foot', '4,5', '--height=-3', '--out', 'c.png'], /no height/],
  ])('%j', (argv, sentence) => {
    expect(() => readArguments(argv)).toThrow(sentence);
  });
});
