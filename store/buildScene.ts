import { straightenOf } from '@/core/recipe/cropOf';
import { plateMatrix } from '@/core/layers/platePlace';
import { type Stroke } from '@/core/mask/stroke';
import { type Rectangle } from '@/core/raster/raster';
import { panoramaCanvas, type PictureGrid, pictureGrid } from '@/core/recipe/pictureGrid';
import { fitOf, type Project, referenceOf } from '@/core/recipe/project';
import { standIns, viewsOf as bracketsOf } from '@/core/recipe/views';
import { type SceneMerge, type TurnedSet, type ViewScene } from '@/core/view/viewScene';
import { type DecodedFrame } from '@/engine/tasks';
import { type BenchState } from './bench';
import { pixelsOf } from './pixelsOf';
import { joinedLevels } from './preparedFrames';

/** A stroke that is being drawn and is not part of the recipe yet. */
export interface LiveStroke {
  readonly layer: string;
  readonly stroke: Stroke;
  /** what its last movement changed, pixel edges of the picture */
  readonly touched: Rectangle;
}

/** What may be there besides the recipe and the frames. */
export interface SceneExtras {
  readonly live?: LiveStroke;
  readonly rival?: SceneMerge;
  /** frames that preparation changed, by hash */
  readonly prepared?: BenchState['prepared'];
  /** merged brackets of a panorama's views, by the hash of their heads */
  readonly views?: BenchState['views'];
}

const fits = (merge: SceneMerge | undefined, grid: PictureGrid): boolean =>
  merge?.levels[0].width === grid.width && merge.levels[0].height === grid.height;

/** A panorama's frames on its paper; undefined for other sets and before the fit. */
function turnedSet(project: Project, state: Parameters<typeof joinedLevels>[0]): TurnedSet | undefined {
  const canvas = panoramaCanvas(project);
  const reference = referenceOf(project);
  if (!canvas || !project.panorama || !reference) return undefined;
  // merged brackets are all as bright as each other
  const alike = bracketsOf(project).length > 0;
  return {
    canvas,
    fit: project.panorama.fit,
    reference: project.panorama.frames.indexOf(standIns(project)(reference.id)),
    frames: project.panorama.frames.map((id) => {
      const frame = project.frames.find((f) => f.id === id);
      return {
        levels: frame && state.decoded[frame.hash] && joinedLevels(state, project, frame.hash),
        stops: frame && !alike ? frame.stops - reference.stops : 0,
      };
    }),
  };
}

/** The scene that the views are made from; undefined while the reference is not decoded. */
export function buildScene(
  project: Project,
  decoded: Readonly<Record<string, DecodedFrame>>,
  merge?: SceneMerge,
  { live, rival, prepared = {}, views = {} }: SceneExtras = {},
): ViewScene | undefined {
  const reference = referenceOf(project);
  const grid = pictureGrid(project);
  if (!reference || !grid || !decoded[reference.hash]) return undefined;
  const turned = project.set.kind === 'panorama';
  const scene: Omit<ViewScene, 'pixels'> = {
    width: grid.width,
    height: grid.height,
    finish: {
      exposure: project.finish.exposure,
      straighten: straightenOf(project),
      noise: project.finish.noise,
      sharpen: project.finish.sharpen,
    },
    match: project.match,
    // a merge of another size belongs to a grid that is gone
    merge: fits(merge, grid) ? merge : undefined,
    rival: fits(rival, grid) ? rival : undefined,
    turned: turnedSet(project, { decoded, prepared, views }),
    frames: project.frames.flatMap((frame) => {
      const pixels = prepared[frame.hash] ? { levels: prepared[frame.hash].made } : decoded[frame.hash];
      if (!pixels) return [];
      const fit = fitOf(project, frame);
      return [
        {
          id: frame.id,
          levels: pixels.levels,
          // a panorama's canvas is not the reference's grid: its frames are shown as they were shot
          matrix: frame.plate
            ? plateMatrix(frame.plate, frame, grid)
            : fit?.fitted && !turned
              ? fit.matrix
              : undefined,
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
  return { ...scene, pixels: pixelsOf(scene) };
}
