import { type Kernels, kernels } from '../../kernels/kernels';
import { type BlendMode, isSeparable, NON_SEPARABLE, type Rgb, SEPARABLE } from '../../layers/blendMode';
import { inLight } from '../light';
import { blendRun } from './blendRun';
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

/** What was last made of a layer's opacity: while one below it changes, it is asked for again and again. */
const opacities = new WeakMap<
  LightTile,
  { readonly opacity: number; readonly mask: Float32Array | undefined; readonly alpha: Float32Array }
>();

/** {@link alphaOf}, remembered for a tile that is kept. */
export function rememberedAlpha(
  over: LightTile,
  opacity: number,
  mask: Float32Array | undefined,
): Float32Array {
  const known = opacities.get(over);
  if (known?.opacity === opacity && known.mask === mask) return known.alpha;
  const alpha = alphaOf(over, opacity, mask);
  opacities.set(over, { opacity, mask, alpha });
  return alpha;
}

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
  return compiled
    ? blendRun(compiled, under, [{ over, alpha: over.alpha, mode }])
    : blendedPlain(under, over, mode);
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
