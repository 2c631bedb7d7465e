import { type Rectangle } from '@/core/raster/raster';
import { type ViewScene } from '@/core/view/viewScene';

/** Where the table gets its scene from; it follows it by itself, so that pixels are asked for before the rest of the screen is drawn anew. */
export interface SceneSource {
  readonly get: () => {
    readonly scene: ViewScene | undefined;
    /** only this part of the picture (pixel edges) differs from the last scene */
    readonly dirty?: Rectangle;
  };
  /** @returns what ends it */
  readonly subscribe: (changed: () => void) => () => void;
}
