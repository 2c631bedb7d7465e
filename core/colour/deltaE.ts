import { length2 } from '../raster/length';

/** A colour of CIE 1976 L*a*b*. */
export type Lab = readonly [number, number, number];

const WHITE_D65 = [0.9504559270516716, 1, 1.0890577507598784] as const;

/** Linear sRGB (IEC 61966-2-1) to CIE L*a*b* under D65 (CIE 15). */
export function labOf(r: number, g: number, b: number): Lab {
  const f = (t: number): number => (t > 216 / 24389 ? Math.cbrt(t) : (t * 24389) / 27 / 116 + 16 / 116);
  const x = f((0.4123907992659595 * r + 0.357584339383878 * g + 0.1804807884018343 * b) / WHITE_D65[0]);
  const y = f(0.21263900587151027 * r + 0.715168678767756 * g + 0.07219231536073371 * b);
  const z = f((0.01933081871559182 * r + 0.11919477979462598 * g + 0.9505321522496607 * b) / WHITE_D65[2]);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

const degrees = (radians: number): number => (radians * 180) / Math.PI;
const radians = (d: number): number => (d * Math.PI) / 180;

/** Colour difference CIEDE2000 (CIE 142; Sharma, Wu & Dalal 2005), parametric factors 1. */
export function deltaE2000([L1, a1, b1]: Lab, [L2, a2, b2]: Lab): number {
  const meanC = (length2(a1, b1) + length2(a2, b2)) / 2;
  const G = 0.5 * (1 - Math.sqrt(meanC ** 7 / (meanC ** 7 + 25 ** 7)));
  const [p1, p2] = [(1 + G) * a1, (1 + G) * a2];
  const [C1, C2] = [length2(p1, b1), length2(p2, b2)];
  const hue = (b: number, a: number): number =>
    a === 0 && b === 0 ? 0 : (degrees(Math.atan2(b, a)) + 360) % 360;
  const [h1, h2] = [hue(b1, p1), hue(b2, p2)];
  const apart = h2 - h1;
  const dh = C1 * C2 === 0 ? 0 : Math.abs(apart) <= 180 ? apart : apart > 180 ? apart - 360 : apart + 360;
  const dL = L2 - L1;
  const dC = C2 - C1;
  const dH = 2 * Math.sqrt(C1 * C2) * Math.sin(radians(dh / 2));
  const [L, C] = [(L1 + L2) / 2, (C1 + C2) / 2];
  const sum = h1 + h2;
  const h =
    C1 * C2 === 0 ? sum : Math.abs(h1 - h2) <= 180 ? sum / 2 : sum < 360 ? (sum + 360) / 2 : (sum - 360) / 2;
  const T =
    1 -
    0.17 * Math.cos(radians(h - 30)) +
    0.24 * Math.cos(radians(2 * h)) +
    0.32 * Math.cos(radians(3 * h + 6)) -
    0.2 * Math.cos(radians(4 * h - 63));
  const SL = 1 + (0.015 * (L - 50) ** 2) / Math.sqrt(20 + (L - 50) ** 2);
  const SC = 1 + 0.045 * C;
  const SH = 1 + 0.015 * C * T;
  const RT =
    -2 * Math.sqrt(C ** 7 / (C ** 7 + 25 ** 7)) * Math.sin(radians(60 * Math.exp(-(((h - 275) / 25) ** 2))));
  return Math.sqrt((dL / SL) ** 2 + (dC / SC) ** 2 + (dH / SH) ** 2 + RT * (dC / SC) * (dH / SH));
}
