import { exposeEncoded } from '../finish/exposeEncoded';
import { renderView, resultPlanes } from './renderView';
import { srgbToLinear } from '../raster/srgb';
import { type View, type ViewScene } from './viewScene';

/** What is known about one pixel of the picture. */
export interface Trace {
  /** codes as shown, 0…255 */
  readonly rgb: readonly [number, number, number];
  /** stops of its luminance from middle grey 0.18; undefined for black */
  readonly zone?: number;
  /** share of each merged frame, 0…1, largest first */
  readonly shares: readonly { readonly frame: string; readonly share: number }[];
}

/** Reads one full-size pixel: the shown codes, the result's zone, and the frames that made it. Undefined outside the picture. */
export function tracePoint(scene: ViewScene, view: View, x: number, y: number): Trace | undefined {
  const [px, py] = [Math.round(x), Math.round(y)];
  if (px < 0 || py < 0 || px >= scene.width || py >= scene.height) return undefined;
  const area = { x: px, y: py, width: 1, height: 1 };
  const shown = renderView(scene, view.kind === 'mask' ? { kind: 'result' } : view, 0, area, 'lanczos');
  const codes = new Uint16Array(3);
  exposeEncoded(resultPlanes(scene, 0, area, 'lanczos'), scene.exposure, 65535, codes);
  const [r, g, b] = [...codes].map((v) => srgbToLinear(v / 65535));
  const luminance = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  const { merge } = scene;
  const at = (py >> 1) * ((scene.width + 1) >> 1) + (px >> 1);
  return {
    rgb: [shown[0], shown[1], shown[2]],
    ...(luminance > 0 ? { zone: Math.log2(luminance / 0.18) } : {}),
    shares: merge
      ? merge.frames
          .map((frame, f) => ({ frame, share: merge.shares[f][at] / 255 }))
          .sort((p, q) => q.share - p.share)
      : [],
  };
}
