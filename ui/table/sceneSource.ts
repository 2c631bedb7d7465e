import { type Rectangle } from '@/core/raster/raster';
import { type ViewScene } from '@/core/view/viewScene';
import { type Followed } from '../useFollowed';

/** Where the table gets its scene from; it follows it by itself, so that pixels are asked for before the rest of the screen is drawn anew. */
export interface SceneSource extends Followed<{
  readonly scene: ViewScene | undefined;
  /** only this part of the picture (pixel edges) differs from the last scene */
  readonly dirty?: Rectangle;
}> {
  /** hears that the table shows what was asked for last */
  readonly onShown?: () => void;
}
