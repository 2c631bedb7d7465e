import { type PanoramaCanvas, placeCanvas } from '../merge/panorama/canvas';
import { chooseProjection } from '../merge/panorama/canvas';
import { type PanoramaFit } from '../register/rotation/fitPanorama';
import { type ProjectionKind } from '../merge/panorama/projection';
import { type Project, referenceOf } from './project';

/** Width and height of the picture that everything after the merge is about. */
export interface PictureGrid {
  readonly width: number;
  readonly height: number;
}

const canvases = new WeakMap<PanoramaFit, Map<string, PanoramaCanvas>>();

/** The projection in force: the chosen one, else the recommended one. */
export function projectionOf(project: Project): ProjectionKind | undefined {
  const { panorama, set } = project;
  if (set.kind !== 'panorama' || !panorama) return undefined;
  return canvasOf(panorama.fit, set.other.projection).projection;
}

function canvasOf(fit: PanoramaFit, projection: ProjectionKind | 'auto'): PanoramaCanvas {
  const known = canvases.get(fit) ?? new Map<string, PanoramaCanvas>();
  canvases.set(fit, known);
  const made =
    known.get(projection) ??
    placeCanvas(fit, projection === 'auto' ? chooseProjection(fit).recommended : projection);
  known.set(projection, made);
  return made;
}

/** The canvas of a fitted panorama; undefined for every other set. */
export function panoramaCanvas(project: Project): PanoramaCanvas | undefined {
  const { panorama, set } = project;
  return set.kind === 'panorama' && panorama ? canvasOf(panorama.fit, set.other.projection) : undefined;
}

/** The grid of the picture: the panorama's canvas, else the reference's own; undefined without frames. */
export function pictureGrid(project: Project): PictureGrid | undefined {
  return panoramaCanvas(project) ?? referenceOf(project);
}
