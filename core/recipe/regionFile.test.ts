import { describe, expect, test } from '@jest/globals';
import { type Stroke } from '../mask/stroke';
import { Problem } from '../proof/problem';
import { EVERYWHERE, type Region, type RegionPart } from '../region/region';
import { readRegionFile, regionFile } from './regionFile';

const part = (of: RegionPart['part']): RegionPart => ({ how: 'add', part: of, turned: false, on: true });
const region = (id: string, name: string, ...parts: RegionPart['part'][]): Region => ({
  ...{ ...EVERYWHERE, id, name, feather: 0.01, smooth: 0.002 },
  parts: parts.map(part),
});

const TONE = { kind: 'tone', settings: { from: -3, to: 1, soft: 0.5 } } as const;
const STROKE: Stroke = {
  ...{ action: 'reveal', size: 0.1, softness: 0.5, flow: 0.8, inside: true },
  points: [[0.1, 0.2, 1]],
};
const NAMED = [
  region('sky', 'the sky', TONE),
  region('calm', 'calm sky', { kind: 'named', settings: { region: 'sky' } }),
  region('other', 'not used', TONE),
];
const OWN = region(
  'own',
  '',
  { kind: 'strokes', settings: { strokes: [STROKE] } },
  { kind: 'named', settings: { region: 'calm' } },
);

const counter = (): (() => string) => {
  let n = 0;
  return () => `new-${++n}`;
};

describe('a region as a file', () => {
  test('comes back with all that it is made of, and nothing else, under ids of its own', () => {
    const back = readRegionFile('a.json', regionFile(OWN, NAMED), counter());
    expect(back.map((r) => r.name)).toEqual(['', 'calm sky', 'the sky']);
    expect(back.map((r) => r.id)).toEqual(['new-1', 'new-2', 'new-3']);
    expect(back[0].parts[0].part).toEqual(OWN.parts[0].part);
    expect(back[0].parts[1].part).toEqual({ kind: 'named', settings: { region: 'new-2' } });
    expect(back[1].parts[0].part).toEqual({ kind: 'named', settings: { region: 'new-3' } });
    expect(back[2]).toMatchObject({ feather: 0.01, smooth: 0.002 });
  });

  test('regions that are made of each other come back as they were', () => {
    const loop = [
      region('a', 'a', { kind: 'named', settings: { region: 'b' } }),
      region('b', 'b', { kind: 'named', settings: { region: 'a' } }),
    ];
    const back = readRegionFile('a.json', regionFile(loop[0], loop), counter());
    expect(back).toHaveLength(2);
    expect(back[1].parts[0].part.settings).toEqual({ region: back[0].id });
  });

  test.each([
    ['no JSON at all', '{"marsh": "reg', 'it is no JSON'],
    ['something else', regionFile(OWN, NAMED).replace('"marsh": "region"', '"marsh": "project"'), 'marsh'],
    ['no region', '{"marsh":"region","version":1,"regions":[]}', 'regions'],
    ['a newer form', regionFile(OWN, NAMED).replace('"version": 1', '"version": 2'), 'version'],
    ['a number out of range', regionFile(OWN, NAMED).replace('"feather": 0.01', '"feather": 9'), 'feather'],
    ['a field that nobody knows', regionFile(OWN, NAMED).replace('"feather"', '"father"'), 'father'],
    ['a part that is not there', regionFile(OWN, []), 'a part of it is missing'],
    ['a number', '7', ''],
  ])('%s is refused by a sentence that names the file and what to do', (_, text, why) => {
    const read = () => readRegionFile('sky.json', text, counter());
    expect(read).toThrow(Problem);
    expect(read).toThrow(/“sky.json” holds no region.*Nothing was changed; choose a file/s);
    expect(read).toThrow(why);
  });
});
