import { cameraOn } from '@/core/ground/cameraOn';
import { horizonAt } from '@/core/ground/horizonAt';
import { type Space } from '@/core/ground/space';
import { standFindings } from '@/core/ground/standFindings';
import { type Finding } from '@/core/proof/finding';
import { type Standing, stoodAt, type Stood } from '@/core/ground/standing';
import { standingOf } from '@/core/ground/standingOf';
import { allLayers, type PictureLayer } from '@/core/layers/layer';
import { type Place, placedCorners, placeMatrix } from '@/core/layers/place';
import { invert, transform } from '@/core/raster/matrix3';
import { type PictureGrid, pictureGrid } from '@/core/recipe/pictureGrid';
import { type Frame, type Project } from '@/core/recipe/project';
import { remember } from './remember';

/** A plate of the picture, and how it stands in its space. Full-size pixels. */
export interface PlateOnGround {
  readonly layer: PictureLayer;
  readonly frame: Frame;
  readonly grid: PictureGrid;
  /** undefined where it stands nowhere */
  readonly standing?: Standing;
  /** undefined where its foot lies above the horizon too */
  readonly stood?: Stood;
  /** pixel of the picture */
  readonly foot?: readonly [number, number];
  /** metres from its foot to its upper end */
  readonly tall?: number;
  /** of one that stands nowhere and lies above the horizon: how wide its long edge is seen, degrees */
  readonly skyAngle?: number;
}

/** The plates that are shown, nearest last, as the layers lie. */
export const platesOnGround = remember(
  (project: Project): readonly PlateOnGround[] => {
    const grid = pictureGrid(project);
    if (!grid) return [];
    return allLayers(project.layers).flatMap((layer) => {
      const plate = layer.shown && layer.kind === 'picture' ? plateOf(project, layer, grid) : undefined;
      return plate ? [plate] : [];
    });
  },
  ({ layers, space, frames, base, sets, made }) => [layers, space, frames, base, sets, made],
);

/** How wide something is seen that lies above the horizon, degrees; undefined where it does not. */
function angleInSky(
  { camera }: Space,
  place: Place,
  own: PictureGrid,
  grid: PictureGrid,
): number | undefined {
  const seen = cameraOn(camera, grid);
  if (placedCorners(place, own, grid).some(([x, y]) => y > horizonAt(seen, x))) return undefined;
  return (360 / Math.PI) * Math.atan(place.size / 2 / camera.focal);
}

/** What is wrong with how a plate stands. */
export function groundFindings(
  { space }: Pick<Project, 'space'>,
  { layer: { name, opacity }, standing, stood, foot, skyAngle }: PlateOnGround,
): Finding[] {
  const scene = space && { light: space.light, unlit: space.unlit ?? false };
  return standFindings(
    {
      name,
      opacity,
      ...(standing ? { standing } : {}),
      ...(stood ? { stood } : {}),
      ...(foot ? { foot } : {}),
      inSky: skyAngle !== undefined,
    },
    scene,
  );
}

function plateOf(project: Project, layer: PictureLayer, grid: PictureGrid): PlateOnGround | undefined {
  const { source, stand, place } = layer;
  const frame = source.kind === 'plate' ? project.frames.find((f) => f.id === source.frame) : undefined;
  if (!frame) return undefined;
  if (!project.space || !place) return { layer, frame, grid };
  if (!stand) {
    const skyAngle = angleInSky(project.space, place, frame, grid);
    return { layer, frame, grid, ...(skyAngle === undefined ? {} : { skyAngle }) };
  }
  const matrix = placeMatrix(place, frame, grid);
  const standing = standingOf(project.space, stand, matrix, frame, grid);
  const back = invert(matrix);
  const stood = stoodAt(standing, back);
  const top = (stand.top ?? 0) * Math.max(frame.width, frame.height);
  return {
    layer,
    frame,
    grid,
    standing,
    ...(stood ? { stood, tall: stood.metres * (standing.foot[1] - top) } : {}),
    foot: transform(back, ...standing.foot),
  };
}
