import { type Adjust } from '../match/adjust';
import { type Mask } from '../mask/mask';
import { type BlendMode } from './blendMode';

/** Where a layer's pixels come from. */
export type LayerSource = { readonly kind: 'merge' } | { readonly kind: 'frame'; readonly frame: string };

/** One layer of the picture, painted over those before it. */
export interface Layer {
  readonly id: string;
  readonly name: string;
  readonly source: LayerSource;
  readonly visible: boolean;
  /** 0…1 */
  readonly opacity: number;
  readonly blend: BlendMode;
  /** stops by which the source is brightened before blending */
  readonly stops: number;
  readonly mask: Mask;
  readonly adjust: Adjust;
}
