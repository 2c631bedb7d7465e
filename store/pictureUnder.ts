import { asCodes, type EncodedImage } from '@/core/raster/encodedImage';
import { baseScope, referenceOf } from '@/core/recipe/setFrames';
import { type Project } from '@/core/recipe/project';
import { type BenchState } from './benchState';
import { shownMerge } from './madePixels';
import { smallMerge } from './smallMerge';

/** long edge of the pictures that space and light are told from, pixels */
export const LOOKED_AT = 1600;
/** width of the sensor that a focal length in millimetres is read by, where the file does not say (common practice) */
const SENSOR = 36;

export const longOf = ({ width, height }: EncodedImage): number => Math.max(width, height);

/** The picture without its layers, as it is looked at. */
export function pictureUnder(
  state: BenchState,
): { readonly image: EncodedImage; readonly level: number } | undefined {
  const scope = baseScope(state.history.project);
  const merged = scope && shownMerge(state, scope);
  if (!scope || !merged) return undefined;
  const { levels } = merged.scene;
  if (merged.toneBase) {
    const small = smallMerge(state, scope);
    return small && { image: small, level: levels.length - 1 };
  }
  const found = levels.findIndex((l) => longOf(l) <= LOOKED_AT);
  const level = found < 0 ? levels.length - 1 : found;
  return { image: asCodes(levels[level]), level };
}

/** Focal length over the long edge, by the file of the reference; undefined where it does not say. */
export function knownFocal(project: Project): number | undefined {
  const scope = baseScope(project);
  const focal = scope && referenceOf(scope)?.facts.focalLength;
  return focal ? focal / SENSOR : undefined;
}
