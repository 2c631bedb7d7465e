import { EDIT_KINDS, type EditKindName, type EditSettings } from '@/core/edits/editKinds';
import { type EditPlace } from '@/core/edits/editKind';
import { evaluate } from '@/core/graph/evaluate';
import { buildGraph } from '@/core/graph/graph';
import { inLight } from '@/core/graph/light';
import { versionOf } from '@/core/graph/operators';
import { type LightTile, type Value } from '@/core/graph/tile';
import { NO_CACHE } from '@/core/graph/tileCache';
import { lightOf } from '@/core/graph/wanted';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { IDENTITY } from '@/core/raster/matrix3';
import { type Rectangle } from '@/core/raster/raster';
import { imageLevels } from '@/engine/tasks';

/** What is known where an edit is tried. */
export interface Around {
  /** other frames of its set */
  readonly frames?: readonly EncodedImage[];
  /** how many of them were exposed as the reference was: the first ones; all when left out */
  readonly alike?: number;
  /** deviation of its noise, encoded 0…1 */
  readonly noise?: number;
}

/** What an edit makes of a picture, linear light on a rectangle of a level. */
export function editedLight<K extends EditKindName>(
  image: EncodedImage,
  kind: K,
  settings: EditSettings[K],
  { area, level = 0, ...around }: Around & { readonly area?: Rectangle; readonly level?: number } = {},
): LightTile {
  const whole = { x: 0, y: 0, width: image.width >> level, height: image.height >> level };
  return editedTiles(image, kind, settings, around)(area ?? whole, level);
}

/** The same, rectangle by rectangle. */
export function editedTiles<K extends EditKindName>(
  image: EncodedImage,
  kind: K,
  settings: EditSettings[K],
  around: Around = {},
): (area: Rectangle, level?: number) => LightTile {
  const g = buildGraph(versionOf);
  const made = new Map<string, Value>();
  const picture = (of: EncodedImage, name: string): string => {
    const frame = g.add('frame', { name });
    made.set(frame, { is: 'picture', levels: imageLevels(of) });
    return g.add('samplePicture', { matrix: IDENTITY }, [frame]);
  };
  const input = picture(image, 'picture');
  const noise = around.noise === undefined ? undefined : g.add('noiseOf', {}, [input]);
  if (noise !== undefined) made.set(noise, { is: 'fact', value: around.noise });
  const lights = (around.frames ?? []).map((f, i) => picture(f, `frame ${i}`));
  const ids = lights.map((_, i) => `${i}`);
  const place: EditPlace = {
    longEdge: Math.max(image.width, image.height),
    ...(noise === undefined ? {} : { noise }),
    frames: { ids, alike: ids.slice(0, around.alike), lightOf: (id) => lights[Number(id)] },
  };
  const compile = EDIT_KINDS[kind].compile as (
    ...args: readonly [typeof g, string, object, EditPlace]
  ) => { readonly changed: string } | undefined;
  const changed = compile(g, input, settings, place)?.changed ?? input;
  const world = { made: (hash: string) => made.get(hash), keeps: () => false, cache: NO_CACHE };
  return (area, level = 0) =>
    inLight(lightOf(evaluate(g.graph, changed, { level, area, kernel: 'lanczos' }, world), 'a test'), false);
}
