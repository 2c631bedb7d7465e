import { type Source } from '../codecs/read/source';
import { type Matrix3 } from '../raster/matrix3';
import { linearToSrgb } from '../raster/srgb';
import { type OpenProfile, XYZ_TO_SRGB } from './profile';

/** sRGB-encoded samples, interleaved, and the code of white. */
export interface EncodedSamples {
  /** R G B, and a fourth that means nothing here */
  readonly channels: 3 | 4;
  readonly white: 255 | 65535 | 1;
  readonly data: Uint8Array | Uint8ClampedArray | Uint16Array | Float32Array;
}

/** half a code of 16 bits: values this far out of 0…1 are rounding */
const INSIDE = 0.5 / 65535;
/** a profile whose codes all come out this near to their own value is sRGB itself */
const SAME = 0.6 / 255;
const CHUNK = 65536;

/**
 * Brings samples of any kind to sRGB-encoded R G B: floats count as scene-linear sRGB, integers follow their profile where there is
 * one and count as sRGB otherwise. Alpha is dropped. Integers stay integers unless a colour leaves sRGB: then floats hold it unclipped.
 */
export function encodeSource(source: Source, profile?: OpenProfile): EncodedSamples {
  const own = profile?.space === source.space ? profile : undefined;
  if (source.space === 'cmyk') return own ? pixelByPixel(source, own) : plainInk(source);
  if (source.white === 1) return fromLinear(source);
  if (!own) return asSrgb(source);
  const tables = channelTables(own, source.white);
  if (!tables) return pixelByPixel(source, own);
  return isSrgb(tables, source.white) ? asSrgb(source) : byTables(source, tables);
}

/** Samples a pixel that carry colour. */
const colours = (source: Source): number => (source.space === 'cmyk' ? 4 : source.space === 'grey' ? 1 : 3);

function asSrgb(source: Source): EncodedSamples {
  const { width, height, channels, white, data } = source;
  if (channels >= 3) return { channels: channels === 3 ? 3 : 4, white, data };
  const n = width * height;
  const out = white === 255 ? new Uint8Array(n * 3) : new Uint16Array(n * 3);
  for (let i = 0, o = 0; o < out.length; i += channels, o += 3) out.fill(data[i], o, o + 3);
  return { channels: 3, white, data: out };
}

function fromLinear({ width, height, channels, space, data }: Source): EncodedSamples {
  const out = new Float32Array(width * height * 3);
  const step = space === 'grey' ? 0 : 1;
  for (let i = 0, o = 0; o < out.length; i += channels, o += 3)
    for (let c = 0; c < 3; c++) out[o + c] = linearToSrgb(data[i + c * step]);
  return { channels: 3, white: 1, data: out };
}

/** Light through each ink alone, the black multiplied in: what is shown where nobody says which inks they are. */
function plainInk({ width, height, white, data }: Source): EncodedSamples {
  const out = white === 255 ? new Uint8Array(width * height * 3) : new Uint16Array(width * height * 3);
  for (let i = 0, o = 0; o < out.length; i += 4, o += 3)
    for (let c = 0; c < 3; c++) out[o + c] = ((white - data[i + c]) * (white - data[i + 3])) / white + 0.5;
  return { channels: 3, white: white === 1 ? 65535 : white, data: out };
}

/** Linear sRGB of every code of each channel alone: `[channel][component][code]`. */
type ChannelTables = readonly (readonly Float64Array[])[];

/**
 * Most profiles are a curve a channel and a matrix, so light adds up over the channels and one table each is exact. Whether that is so is
 * tried on mixed colours; undefined when it is not.
 */
function channelTables(profile: OpenProfile, white: 255 | 65535): ChannelTables | undefined {
  const n = profile.space === 'grey' ? 1 : 3;
  const tables = Array.from({ length: n }, (_, c) => {
    const device = new Float32Array((white + 1) * n);
    for (let code = 0; code <= white; code++) device[code * n + c] = code / white;
    const linear = multiplied(profile.toXyz(device), XYZ_TO_SRGB);
    return [0, 1, 2].map((k) => Float64Array.from({ length: white + 1 }, (_, code) => linear[code * 3 + k]));
  });
  const black = tables[0].map((t) => t[0]);
  const probes = Array.from({ length: 60 * n }, (_, i) => Math.round((((i * 7919) % 97) / 96) * white));
  const linear = multiplied(profile.toXyz(Float32Array.from(probes, (v) => v / white)), XYZ_TO_SRGB);
  for (let p = 0; p < 60; p++)
    for (let k = 0; k < 3; k++) {
      let sum = black[k];
      for (let c = 0; c < n; c++) sum += tables[c][k][probes[p * n + c]] - black[k];
      if (Math.abs(sum - linear[p * 3 + k]) > 2e-4) return undefined;
    }
  return tables;
}

function multiplied(xyz: Float32Array, m: Matrix3): Float64Array {
  const out = new Float64Array(xyz.length);
  for (let i = 0; i < xyz.length; i += 3)
    for (let k = 0; k < 3; k++)
      out[i + k] = m[k * 3] * xyz[i] + m[k * 3 + 1] * xyz[i + 1] + m[k * 3 + 2] * xyz[i + 2];
  return out;
}

function isSrgb(tables: ChannelTables, white: 255 | 65535): boolean {
  return tables.every((table, c) =>
    table.every((component, k) => {
      if (tables.length === 3 && c !== k) return component.every((v) => Math.abs(v) < 2e-3);
      for (let code = 0; code <= white; code += white === 255 ? 1 : 257)
        if (Math.abs(linearToSrgb(component[code]) - code / white) > SAME) return false;
      return true;
    }),
  );
}

function byTables(source: Source, tables: ChannelTables): EncodedSamples {
  const { channels, data } = source;
  const n = tables.length;
  return encodeAll(source, (i, rgb) => {
    for (let k = 0; k < 3; k++) {
      let v = tables[0][k][data[i * channels]];
      for (let c = 1; c < n; c++) v += tables[c][k][data[i * channels + c]];
      rgb[k] = v;
    }
  });
}

function pixelByPixel(source: Source, profile: OpenProfile): EncodedSamples {
  const { channels, data, white } = source;
  const n = colours(source);
  let from = -CHUNK;
  let linear: Float64Array = new Float64Array(0);
  return encodeAll(source, (i, rgb) => {
    if (i >= from + CHUNK || i < from) {
      from = i - (i % CHUNK);
      const count = Math.min(CHUNK, source.width * source.height - from);
      const device = new Float32Array(count * n);
      for (let p = 0; p < count; p++)
        for (let c = 0; c < n; c++) device[p * n + c] = data[(from + p) * channels + c] / white;
      linear = multiplied(profile.toXyz(device), XYZ_TO_SRGB);
    }
    for (let k = 0; k < 3; k++) rgb[k] = linear[(i - from) * 3 + k];
  });
}

const STEPS = 8192;
const ROOTS = Float32Array.from({ length: STEPS + 2 }, (_, i) => linearToSrgb((i / STEPS) ** 2));

/** {@link linearToSrgb}, by table between black and white. */
export function encodeOpen(linear: number): number {
  if (!(linear > 0.0031308 && linear < 1)) return linearToSrgb(linear);
  const t = Math.sqrt(linear) * STEPS;
  const k = t | 0;
  return ROOTS[k] + (t - k) * (ROOTS[k + 1] - ROOTS[k]);
}

/** Encodes linear pixels in 16 bits, and starts again with floats as soon as one lies outside. */
export function encodeAll(
  { width, height }: { readonly width: number; readonly height: number },
  linearAt: (pixel: number, rgb: Float64Array) => void,
): EncodedSamples {
  const rgb = new Float64Array(3);
  const codes = new Uint16Array(width * height * 3);
  for (let i = 0, o = 0; o < codes.length; i++, o += 3) {
    linearAt(i, rgb);
    for (let c = 0; c < 3; c++) {
      const v = encodeOpen(rgb[c]);
      if (v < -INSIDE || v > 1 + INSIDE)
        return { channels: 3, white: 1, data: allFloats(width * height, linearAt) };
      codes[o + c] = Math.max(0, Math.min(1, v)) * 65535 + 0.5;
    }
  }
  return { channels: 3, white: 65535, data: codes };
}

function allFloats(count: number, linearAt: (pixel: number, rgb: Float64Array) => void): Float32Array {
  const rgb = new Float64Array(3);
  const out = new Float32Array(count * 3);
  for (let i = 0, o = 0; i < count; i++, o += 3) {
    linearAt(i, rgb);
    for (let c = 0; c < 3; c++) out[o + c] = encodeOpen(rgb[c]);
  }
  return out;
}
