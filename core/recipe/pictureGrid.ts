import { chooseProjection, type PanoramaCanvas, placeCanvas } from '../merge/panorama/canvas';
import { type ProjectionKind } from '../merge/panorama/projection';
import { type KeptPanorama, type OtherMerge, type Project, referenceOf } from './project';

/** Width and height of the picture that everything after the merge is about. */
export interface PictureGrid {
  readonly width: number;
  readonly height: number;
}

const canvases = new WeakMap<KeptPanorama, Map<string, PanoramaCanvas>>();

/** The projection in force: the chosen one, else the recommended one. */
export function projectionOf(project: Project): ProjectionKind | undefined {
  const { panorama, set } = project;
  if (set.kind !== 'panorama' || !panorama) return undefined;
  return canvasOf(panorama, set.other).projection;
}

function canvasOf(panorama: KeptPanorama, { projection: wished, border }: OtherMerge): PanoramaCanvas {
  const known = canvases.get(panorama) ?? new Map<string, PanoramaCanvas>();
  canvases.set(panorama, known);
  const key = `${wished} ${border}`;
  let made = known.get(key);
  if (!made) {
    const { fit, mesh } = panorama;
    const projection = wished === 'auto' ? chooseProjection(fit).recommended : wished;
    // a mesh bends one projection only
    const fills = border === 'warp' && mesh?.projection === projection;
    made = placeCanvas(fit, projection, undefined, fills ? mesh : undefined);
    known.set(key, made);
  }
  return made;
}

/** The canvas of a fitted panorama; undefined for every other set. */
export function panoramaCanvas(project: Project): PanoramaCanvas | undefined {
  const { panorama, set } = project;
  return set.kind === 'panorama' && panorama ? canvasOf(panorama, set.other) : undefined;
}

/** Long edge of the picture, pixels; 0 without frames. */
export function longEdgeOf(project: Project): number {
  const grid = pictureGrid(project);
  return grid ? Math.max(grid.width, grid.height) : 0;
}

/** The grid of the picture: the panorama's canvas, else the reference's own; undefined without frames. */
export function pictureGrid(project: Project): PictureGrid | undefined {
  return panoramaCanvas(project) ?? referenceOf(project);
}
