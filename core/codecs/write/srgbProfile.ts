/**
 * An ICC profile of sRGB, or of linear light with its primaries (ICC.1:2022, version 4.2 display profile): three colorants adapted to D50 by Bradford and the
 * parametric curve of IEC 61966-2-1. Colorants as published for sRGB in D50 (from memory, checked against an independent library).
 */
export function srgbProfile(kind: 'srgb' | 'linear' = 'srgb'): Uint8Array {
  const xyz = (x: number, y: number, z: number): number[] => [
    ...tag('XYZ '),
    ...fixed(x),
    ...fixed(y),
    ...fixed(z),
  ];
  const linear = [...tag('para'), ...u16(0), ...u16(0), ...fixed(1)];
  const encoded = [
    ...tag('para'),
    ...u16(3),
    ...u16(0),
    ...fixed(2.4),
    ...fixed(1 / 1.055),
    ...fixed(0.055 / 1.055),
    ...fixed(1 / 12.92),
    ...fixed(0.04045),
  ];
  const curve = kind === 'linear' ? linear : encoded;
  const text = (s: string): number[] => [
    ...tag('mluc'),
    ...u32(1),
    ...u32(12),
    ...ascii('enUS'),
    ...u32(s.length * 2),
    ...u32(28),
    ...[...s].flatMap((c) => u16(c.charCodeAt(0))),
  ];
  const adaptation = [
    1.047882, 0.022919, -0.050201, 0.029587, 0.990479, -0.017059, -0.009232, 0.015076, 0.751678,
  ];
  const tags: [string, number[]][] = [
    ['desc', text(kind === 'linear' ? 'Linear sRGB' : 'sRGB')],
    ['cprt', text('No copyright, use freely')],
    ['wtpt', xyz(0.9642, 1, 0.8249)],
    ['chad', [...tag('sf32'), ...adaptation.flatMap(fixed)]],
    ['rXYZ', xyz(0.436066, 0.222488, 0.013916)],
    ['gXYZ', xyz(0.385147, 0.716873, 0.097076)],
    ['bXYZ', xyz(0.143066, 0.060608, 0.714096)],
    ['rTRC', curve],
    ['gTRC', curve],
    ['bTRC', curve],
  ];
  const table: number[] = [...u32(tags.length)];
  const body: number[] = [];
  const start = 128 + 4 + 12 * tags.length;
  const seen = new Map<number[], number>();
  for (const [name, data] of tags) {
    let at = seen.get(data);
    if (at === undefined) {
      at = start + body.length;
      seen.set(data, at);
      body.push(...data);
      while (body.length % 4) body.push(0);
    }
    table.push(...ascii(name), ...u32(at), ...u32(data.length));
  }
  const size = start + body.length;
  const header = [
    ...u32(size),
    ...u32(0),
    ...u32(0x04200000),
    ...ascii('mntrRGB XYZ '),
    ...[2026, 1, 1, 0, 0, 0].flatMap(u16),
    ...ascii('acsp'),
    ...new Array<number>(28).fill(0),
    ...fixed(0.9642),
    ...fixed(1),
    ...fixed(0.8249),
    ...new Array<number>(48).fill(0),
  ];
  return Uint8Array.from([...header, ...table, ...body]);
}

const ascii = (s: string): number[] => [...s].map((c) => c.charCodeAt(0));
const tag = (s: string): number[] => [...ascii(s), 0, 0, 0, 0];
const u16 = (v: number): number[] => [(v >> 8) & 255, v & 255];
const u32 = (v: number): number[] => [(v >>> 24) & 255, (v >>> 16) & 255, (v >>> 8) & 255, v & 255];
/** s15Fixed16Number */
const fixed = (v: number): number[] => u32(Math.round(v * 65536));
