import { type EncodedImage } from '@/core/raster/encodedImage';
import { straightenOf } from '@/core/recipe/cropOf';
import { type Stroke } from '@/core/mask/stroke';
import { fitOf, type Project, referenceOf } from '@/core/recipe/project';
import { type SceneMerge, type ViewScene } from '@/core/view/viewScene';
import { type DecodedFrame } from '@/engine/tasks';

/** A stroke that is being drawn and is not part of the recipe yet. */
export interface LiveStroke {
  readonly layer: string;
  readonly stroke: Stroke;
}

/** What may be there besides the recipe and the frames. */
export interface SceneExtras {
  readonly live?: LiveStroke;
  readonly rival?: SceneMerge;
  /** frames that preparation changed, by hash */
  readonly prepared?: Readonly<Record<string, { readonly made: readonly EncodedImage[] }>>;
}

/** The scene that the views are made from; undefined while the reference is not decoded. */
export function buildScene(
  project: Project,
  decoded: Readonly<Record<string, DecodedFrame>>,
  merge?: SceneMerge,
  { live, rival, prepared = {} }: SceneExtras = {},
): ViewScene | undefined {
  const reference = referenceOf(project);
  if (!reference || !decoded[reference.hash]) return undefined;
  return {
    width: reference.width,
    height: reference.height,
    finish: {
      exposure: project.finish.exposure,
      straighten: straightenOf(project),
      noise: project.finish.noise,
      sharpen: project.finish.sharpen,
    },
    match: project.match,
    merge,
    rival,
    frames: project.frames.flatMap((frame) => {
      const pixels = prepared[frame.hash] ? { levels: prepared[frame.hash].made } : decoded[frame.hash];
      if (!pixels) return [];
      const fit = fitOf(project, frame);
      return [
        {
          id: frame.id,
          levels: pixels.levels,
          matrix: fit?.fitted ? fit.matrix : undefined,
          stops: frame.stops - reference.stops,
        },
      ];
    }),
    layers: project.layers
      .filter((l) => l.visible)
      .map(({ id, source, opacity, blend, stops, mask, adjust }) => ({
        id,
        source: source.kind === 'merge' ? 'merge' : source.frame,
        opacity,
        blend,
        stops,
        adjust,
        mask: live?.layer === id ? { ...mask, strokes: [...mask.strokes, live.stroke] } : mask,
      })),
  };
}
