import { chooseProjection, type PanoramaCanvas, placeCanvas } from '../merge/panorama/canvas';
import { type ProjectionKind } from '../merge/panorama/projection';
import { type RectangleMesh } from '../merge/rectangle/rectangleMesh';
import { baseScope, panoramaOf, referenceOf } from './setFrames';
import { type KeptPanorama, type OtherMerge, type Project, type SetScope } from './project';
import { setGraph } from './setGraph';

/** Width and height of a picture, full-size pixels. */
export interface PictureGrid {
  readonly width: number;
  readonly height: number;
}

const canvases = new WeakMap<KeptPanorama, Map<string, PanoramaCanvas>>();

/** The projection in force: the chosen one, else the recommended one. */
export function projectionOf(scope: SetScope): ProjectionKind | undefined {
  const panorama = panoramaOf(scope);
  return panorama && canvasOf(panorama, scope.set.other, meshOf(scope)).projection;
}

/** What bends a panorama's border, once that was found. */
export function meshOf(scope: SetScope): RectangleMesh | undefined {
  const { border } = setGraph(scope);
  const made = border === undefined ? undefined : scope.made[border];
  return made?.of === 'mesh' ? made.mesh : undefined;
}

function canvasOf(
  panorama: KeptPanorama,
  { projection: wished, border }: OtherMerge,
  mesh: RectangleMesh | undefined,
): PanoramaCanvas {
  const known = canvases.get(panorama) ?? new Map<string, PanoramaCanvas>();
  canvases.set(panorama, known);
  const { fit } = panorama;
  const projection = wished === 'auto' ? chooseProjection(fit).recommended : wished;
  // a mesh bends one projection only
  const fills = border === 'warp' && mesh?.projection === projection;
  const key = `${projection} ${fills}`;
  const made = known.get(key) ?? placeCanvas(fit, projection, undefined, fills ? mesh : undefined);
  known.set(key, made);
  return made;
}

/** The canvas of a fitted panorama; undefined for every other set. */
export function panoramaCanvas(scope: SetScope): PanoramaCanvas | undefined {
  const panorama = panoramaOf(scope);
  return panorama && canvasOf(panorama, scope.set.other, meshOf(scope));
}

/** The grid of a set's picture: the panorama's canvas, else the reference's own; undefined without frames. */
export function setGrid(scope: SetScope): PictureGrid | undefined {
  return panoramaCanvas(scope) ?? referenceOf(scope);
}

/** The grid of the picture: that of its base; undefined without frames. */
export function pictureGrid(project: Project): PictureGrid | undefined {
  const scope = baseScope(project);
  return scope && setGrid(scope);
}

/** Long edge of the picture, pixels; 0 without frames. */
export function longEdgeOf(project: Project): number {
  const grid = pictureGrid(project);
  return grid ? Math.max(grid.width, grid.height) : 0;
}
