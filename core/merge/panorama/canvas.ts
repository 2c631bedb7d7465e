import { type RectangleMesh, placeOnMesh } from '../rectangle/rectangleMesh';
import { type Matrix3, transposed } from '../../raster/matrix3';
import { rayOf, seesDirection, type SharedLens, turned } from '../../register/rotation/cameraModel';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { type ProjectionKind, PROJECTIONS, stretchAt } from './projection';

/** The paper that a panorama is drawn on: pixel (x, y) lies at ((x + left) / scale, (y + top) / scale) of the projection's plane, bent by its mesh if it has one. */
export interface PanoramaCanvas {
  readonly projection: ProjectionKind;
  readonly width: number;
  readonly height: number;
  /** pixels a plane unit */
  readonly scale: number;
  readonly left: number;
  readonly top: number;
  readonly mesh?: RectangleMesh;
}

/** The place on the projection's plane that a pixel of the paper shows. */
export function planeAt(
  { scale, left, top, mesh }: PanoramaCanvas,
  x: number,
  y: number,
): [u: number, v: number] {
  const [u, v] = [(x + left) / scale, (y + top) / scale];
  return mesh ? placeOnMesh(mesh, u, v) : [u, v];
}

/** a larger picture is drawn smaller, pixels */
const LARGEST = 100e6;
const SAMPLES = 40;

interface Extent {
  /** left, top, right, bottom on the plane */
  readonly box: readonly number[];
  /** whether all of it has a place there */
  readonly whole: boolean;
}

/** Extent of one frame on a projection's plane, from samples of it. @param steps between samples: 1 for all of it, SAMPLES for its outline */
function extentOfFrame(lens: SharedLens, R: Matrix3, kind: ProjectionKind, steps: number): Extent {
  const { toPlane } = PROJECTIONS[kind];
  const back = transposed(R);
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  let whole = true;
  for (let j = 0; j <= SAMPLES; j++)
    for (let i = 0; i <= SAMPLES; i += j % SAMPLES === 0 ? 1 : steps) {
      const ray = rayOf(lens, (i / SAMPLES) * (lens.width - 1), (j / SAMPLES) * (lens.height - 1));
      const p = toPlane(...turned(back, ray));
      if (!p) {
        whole = false;
        continue;
      }
      left = Math.min(left, p[0]);
      top = Math.min(top, p[1]);
      right = Math.max(right, p[0]);
      bottom = Math.max(bottom, p[1]);
    }
  return { box: [left, top, right, bottom], whole };
}

/** Whether a frame sees straight up or down, where a cylinder has no end and longitudes meet. */
const seesPole = (lens: SharedLens, R: Matrix3): boolean =>
  seesDirection(lens, R, [0, -1, 0]) || seesDirection(lens, R, [0, 1, 0]);

/** Extent of all frames on a projection's plane. */
function extent({ lens, rotations }: PanoramaFit, kind: ProjectionKind): Extent {
  const parts = rotations.flatMap((R) => {
    if (!R) return [];
    const outline = extentOfFrame(lens, R, kind, SAMPLES);
    // what is drawn in one piece lies within its outline
    const inOnePiece = outline.whole && outline.box[2] - outline.box[0] < Math.PI && !seesPole(lens, R);
    return [inOnePiece ? outline : extentOfFrame(lens, R, kind, 1)];
  });
  const all = (side: number, of: (...values: number[]) => number): number =>
    of(...parts.map((p) => p.box[side]));
  return {
    box: [all(0, Math.min), all(1, Math.min), all(2, Math.max), all(3, Math.max)],
    whole: parts.every((p) => p.whole),
  };
}

/** The canvas that holds all frames at the frames' own scale, at most 100 megapixels. @param mesh bends it to a rectangle without blank borders */
export function placeCanvas(
  fit: PanoramaFit,
  projection: ProjectionKind,
  largest = LARGEST,
  mesh?: RectangleMesh,
): PanoramaCanvas {
  const box = mesh
    ? [mesh.left, mesh.top, mesh.left + mesh.across, mesh.top + mesh.down]
    : extent(fit, projection).box;
  const area = (box[2] - box[0]) * (box[3] - box[1]);
  const scale = Math.min(fit.lens.focalPx, Math.sqrt(largest / area));
  const left = Math.floor(box[0] * scale);
  const top = Math.floor(box[1] * scale);
  return {
    projection,
    width: Math.ceil(box[2] * scale) - left + 1,
    height: Math.ceil(box[3] * scale) - top + 1,
    scale,
    left,
    top,
    ...(mesh ? { mesh } : {}),
  };
}

/** The same paper with pixels 2^level times as large; for previews and for what is decided on a grid. */
export function reducedCanvas(canvas: PanoramaCanvas, level: number): PanoramaCanvas {
  const k = 2 ** level;
  // the centre of a cell lies between the pixels it stands for
  const off = (k - 1) / 2 / k;
  return {
    ...canvas,
    width: Math.ceil(canvas.width / k),
    height: Math.ceil(canvas.height / k),
    scale: canvas.scale / k,
    left: canvas.left / k + off,
    top: canvas.top / k + off,
  };
}

/** One way to lay the set out, with what it does to the picture. */
export interface ProjectionChoice {
  readonly kind: ProjectionKind;
  /** how much larger things are drawn at the worst place than in the middle, % */
  readonly stretch: number;
  /** whether all of the frames has a place */
  readonly whole: boolean;
}

/** a flat picture or a Panini one is recommended up to this stretch, % (common practice: flat up to about 80° to 90°) */
const FLAT_STRETCH = 75;
const PANINI_STRETCH = 110;
/** latitudes beyond this are drawn more evenly by longitude and latitude, cylinder's stretch, % */
const CYLINDER_STRETCH = 90;

/** All projections with their stretch, and the one that is recommended, with the reason as a sentence. */
export function chooseProjection(fit: PanoramaFit): {
  readonly choices: readonly ProjectionChoice[];
  readonly recommended: ProjectionKind;
  readonly why: string;
} {
  const choices = (Object.keys(PROJECTIONS) as ProjectionKind[]).map((kind): ProjectionChoice => {
    const { box, whole } = extent(fit, kind);
    let most = 1;
    for (const u of [box[0], (box[0] + box[2]) / 2, box[2]])
      for (const v of [box[1], (box[1] + box[3]) / 2, box[3]]) most = Math.max(most, stretchAt(kind, u, v));
    return { kind, stretch: 100 * (most - 1), whole };
  });
  const of = (kind: ProjectionKind): ProjectionChoice =>
    choices.find((c) => c.kind === kind) ?? { kind, stretch: Infinity, whole: false };
  const { box } = extent(fit, 'equirectangular');
  const field = Math.round(((box[2] - box[0]) * 180) / Math.PI);
  const says = (kind: ProjectionKind): string => `${Math.round(of(kind).stretch)} %`;
  if (of('rectilinear').whole && of('rectilinear').stretch <= FLAT_STRETCH)
    return {
      choices,
      recommended: 'rectilinear',
      why: `The set spans ${field}°: a flat picture keeps every straight line and stretches its edges by ${says('rectilinear')} only.`,
    };
  if (of('panini').whole && of('panini').stretch <= PANINI_STRETCH)
    return {
      choices,
      recommended: 'panini',
      why: `The set spans ${field}°: a flat picture would stretch its edges by ${says('rectilinear')}, Panini by ${says('panini')} while verticals stay straight.`,
    };
  if (of('cylindrical').stretch <= CYLINDER_STRETCH)
    return {
      choices,
      recommended: 'cylindrical',
      why: `The set spans ${field}°: a cylinder stretches by ${says('cylindrical')} at most; level lines away from the horizon bow.`,
    };
  return {
    choices,
    recommended: 'equirectangular',
    why: `The set spans ${field}° and reaches high or low: longitude and latitude hold all of it.`,
  };
}
