import { toneMapBand } from '@/core/merge/radiance/mergeRadiance';
import { type ToneWish } from '@/core/merge/radiance/toneMap';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { type SetScope } from '@/core/recipe/project';
import { type BenchState } from './benchState';
import { shownMerge } from './madePixels';
import { toneWish } from './stages/bracketFindings';

/** what was toned last from each small radiance map */
const toned = new WeakMap<EncodedImage, { readonly wish: ToneWish; readonly image: EncodedImage }>();

/** A set's merge as small as there is, a radiance map in the tones that its set gives it; undefined while there is none. */
export function smallMerge(
  state: Pick<BenchState, 'merged' | 'proxies'>,
  scope: SetScope,
): EncodedImage | undefined {
  const merged = shownMerge(state, scope);
  if (!merged) return undefined;
  const { scene, toneBase: base } = merged;
  const [full, small] = [scene.levels[0], scene.levels[scene.levels.length - 1]];
  if (!base) return small;
  const wish = toneWish(scope);
  const before = toned.get(small);
  if (before?.wish === wish) return before.image;
  const { width, height } = small;
  const image = emptyImage(width, height, 65535);
  const cell = (base.cell * width) / full.width;
  toneMapBand(small, { x: 0, y: 0, width, height }, { ...base, cell }, wish, image);
  toned.set(small, { wish, image });
  return image;
}
