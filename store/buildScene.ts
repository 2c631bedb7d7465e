import { type Stroke } from '@/core/mask/stroke';
import { fitOf, type Project, referenceOf } from '@/core/recipe/project';
import { type SceneMerge, type ViewScene } from '@/core/view/viewScene';
import { type DecodedFrame } from '@/engine/tasks';

/** A stroke that is being drawn and is not part of the recipe yet. */
export interface LiveStroke {
  readonly layer: string;
  readonly stroke: Stroke;
}

/** The scene that the views are made from; undefined while the reference is not decoded. */
export function buildScene(
  project: Project,
  decoded: Readonly<Record<string, DecodedFrame>>,
  merge?: SceneMerge,
  live?: LiveStroke,
): ViewScene | undefined {
  const reference = referenceOf(project);
  if (!reference || !decoded[reference.hash]) return undefined;
  return {
    width: reference.width,
    height: reference.height,
    exposure: project.finish.exposure,
    merge,
    frames: project.frames.flatMap((frame) => {
      const pixels = decoded[frame.hash];
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
      .map(({ id, source, opacity, blend, stops, mask }) => ({
        id,
        source: source.kind === 'merge' ? 'merge' : source.frame,
        opacity,
        blend,
        stops,
        mask: live?.layer === id ? { ...mask, strokes: [...mask.strokes, live.stroke] } : mask,
      })),
  };
}
