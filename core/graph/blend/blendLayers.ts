import { type Kernels, kernels, planeBytes, uploadPlanes } from '../../kernels/kernels';
import { type BlendMode, isSeparable, NON_SEPARABLE, type Rgb, SEPARABLE } from '../../layers/blendMode';
import { inLight } from '../light';
import { operator } from '../operator';
import { type LightTile } from '../tile';
import { isNowhere, lightOf, maskOf } from '../wanted';

/** How a layer is laid over what is beneath. */
export interface BlendSettings {
  readonly mode: BlendMode;
  /** 0…1 */
  readonly opacity: number;
  /** blends linear light instead of encoded values */
  readonly linear: boolean;
}

/** places among the inputs */
const [LAYER, WHERE] = [1, 2];

/** A layer laid over what is beneath. Inputs: beneath, the layer, and where it is shown unless that is everywhere. */
export const blendLayers = operator<BlendSettings>({
  kind: 'blendLayers',
  version: 1,
  gives: 'light',
  skips: (input, made, inputs) => input === LAYER && inputs[0] !== '' && isNowhere(made[WHERE]),
  run: ([beneath, layer, where], settings) => {
    const encoded = !settings.linear;
    if (beneath && !layer) return inLight(lightOf(beneath, 'a layer'), encoded);
    const over = inLight(lightOf(layer, 'a layer'), encoded);
    const mask = where && maskOf(where, 'a layer').plane;
    const alpha = alphaOf(over, settings.opacity, mask);
    if (!beneath) return { ...over, alpha };
    const under = inLight(lightOf(beneath, 'a layer'), encoded);
    if (isNowhere({ is: 'mask', plane: alpha })) return under;
    return blended(under, { ...over, alpha }, settings.mode);
  },
});

/** Opacity of a layer's pixels. @param compiled null for the plain form, which the compiled one is held against */
export function alphaOf(
  { planes: [{ length }], alpha }: LightTile,
  opacity: number,
  mask?: Float32Array,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  if (!compiled)
    return Float32Array.from({ length }, (_, i) => opacity * (alpha?.[i] ?? 1) * (mask?.[i] ?? 1));
  return compiled.borrow(() => {
    const [own, where] = [alpha, mask].map((p) => (p ? compiled.upload(p) : 0));
    const out = compiled.take(4 * length);
    compiled.opacityPlane(own, where, length, opacity, out);
    return compiled.floats(out, length).slice();
  });
}

/** places of the modes in the compiled form: the order of the tables of {@link SEPARABLE} and {@link NON_SEPARABLE} */
const NUMBERS: Readonly<Record<string, number>> = Object.fromEntries(
  [Object.keys(SEPARABLE), Object.keys(NON_SEPARABLE)].flatMap((modes) => modes.map((mode, i) => [mode, i])),
);

/**
 * Simple alpha compositing with a blend mode (W3C Compositing and Blending Level 1, section 5.1), straight colours in and out.
 * `normal` keeps what lies beyond 0…1; the other modes are defined on 0…1 and clip what they mix.
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function blended(
  under: LightTile,
  over: LightTile & { readonly alpha: Float32Array },
  mode: BlendMode,
  compiled: Kernels | null = kernels() ?? null,
): LightTile {
  const { length } = over.alpha;
  if (!compiled) return blendedPlain(under, over, mode);
  return compiled.borrow(() => {
    const plane = planeBytes(length);
    const back = uploadPlanes(compiled, under.planes);
    const source = uploadPlanes(compiled, over.planes);
    const alpha = compiled.upload(over.alpha);
    const backAlpha = under.alpha ? compiled.upload(under.alpha) : 0;
    const number = NUMBERS[mode];
    if (isSeparable(mode))
      for (let c = 0; c < 3; c++)
        compiled.blendPlane(number, back + c * plane, source + c * plane, alpha, backAlpha, length);
    else compiled.blendColours(number, back, source, plane, alpha, backAlpha, length);
    if (backAlpha) compiled.coverPlane(backAlpha, alpha, length);
    return {
      is: 'light' as const,
      encoded: under.encoded,
      planes: [0, 1, 2].map((c) => compiled.floats(back + c * plane, length).slice()),
      ...(backAlpha ? { alpha: compiled.floats(backAlpha, length).slice() } : {}),
    };
  });
}

const clip = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);

function blendedPlain(
  under: LightTile,
  over: LightTile & { readonly alpha: Float32Array },
  mode: BlendMode,
): LightTile {
  const planes = under.planes.map((p) => p.slice());
  const alpha = under.alpha?.slice();
  for (let i = 0; i < over.alpha.length; i++) {
    const [as, ab] = [over.alpha[i], alpha ? alpha[i] : 1];
    const b: Rgb = [planes[0][i], planes[1][i], planes[2][i]];
    const s: Rgb = [over.planes[0][i], over.planes[1][i], over.planes[2][i]];
    const both: Rgb = isSeparable(mode)
      ? (b.map((v, c) => (mode === 'normal' ? s[c] : SEPARABLE[mode](clip(v), clip(s[c])))) as unknown as Rgb)
      : NON_SEPARABLE[mode](b.map(clip) as unknown as Rgb, s.map(clip) as unknown as Rgb);
    const total = as + (1 - as) * ab;
    // where nothing is, the backdrop's colour goes on: what looks around itself must not meet black there
    if (total > 0)
      for (let c = 0; c < 3; c++)
        planes[c][i] = ((1 - as) * ab * b[c] + as * (1 - ab) * s[c] + as * ab * both[c]) / total;
    if (alpha) alpha[i] = total;
  }
  return { ...under, planes, ...(alpha ? { alpha } : {}) };
}
