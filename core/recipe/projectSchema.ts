import { array, boolean, lazy, mixed, object, type Schema, tuple } from 'yup';
import { SET_KINDS } from '../capture/setKind';
import { MOMENT_TASTES } from '../merge/moments/momentTastes';
import { PROJECTIONS } from '../merge/panorama/projection';
import { MOST_FRAME_DAB_POINTS, MOST_FRAME_DABS } from '../merge/seams/frameDab';
import { BLEND_MODES } from '../layers/blendMode';
import { CROP_RATIOS } from '../finish/cropRatio';
import { RANKS } from '../edits/rank';
import { spaceSchema, standSchema } from '../ground/spaceSchema';
import { EDIT_KINDS } from '../edits/editKinds';
import { mapCurves, mapMatrix } from '../edits/match/mapSchema';
import { PART_KINDS } from '../region/partKinds';
import { JOINS } from '../region/region';
import { PROJECT_VERSION } from './emptyProject';
import { PROJECT_LIMITS } from './projectLimits';
import {
  between,
  count,
  date,
  homography,
  id,
  numbers,
  oneOf,
  penLine,
  place,
  rotation,
  rows,
  share,
  strict,
  text,
} from './schemaParts';

const rectangle = { x: place(), y: place(), width: between(1, 1e6), height: between(1, 1e6) };
const optionalRectangle = () => object(rectangle).noUnknown().strict(true).default(undefined).optional();

const facts = object({
  seconds: between(0, 1e6).optional(),
  aperture: between(0, 1000).optional(),
  iso: between(0, 1e8).optional(),
  focalLength: between(0, 1e5).optional(),
  taken: date().optional(),
  camera: text(80).optional(),
  lens: text(80).optional(),
  whiteBalance: mixed<'auto' | 'set'>().oneOf(['auto', 'set']).optional(),
})
  .noUnknown()
  .strict(true)
  .default(undefined)
  .required();

const frame = strict({
  id: id(),
  file: text(255),
  hash: text(64).matches(/^[0-9a-f]{64}$/, 'must be a SHA-256'),
  bytes: count(),
  width: between(16, 30000).integer(),
  height: between(16, 30000).integer(),
  depth: mixed<8 | 16 | 32>().oneOf([8, 16, 32]).required(),
  facts,
  stops: between(-40, 40),
  stopsSource: oneOf(['exif', 'measured']),
  clipped: strict({
    light: share(),
    dark: share(),
    lightAt: optionalRectangle(),
    darkAt: optionalRectangle(),
  }),
  measures: object({ darkNoise: between(0, 255).optional(), sharpness: share().optional() })
    .noUnknown()
    .strict(true)
    .required(),
  used: boolean().strict(true).required(),
});

const line = tuple([place(), place(), place(), place()]);
const measures = strict({ contrast: share(), saturation: share(), exposedness: share() });
const tone = strict({ strength: share(), detail: between(0, 3) });
const motion = oneOf(['auto', 'shift', 'similarity', 'perspective']);
const method = oneOf(['fusion', 'radiance']);
const response = oneOf(['srgb', 'recovered']);

/** A member that may be absent. */
const optional = (schema: Schema): Schema => (schema.default(undefined) as Schema).optional() as Schema;

/** The schema of a kind that a table holds, or one that refuses everything. */
function ofKind(kinds: Readonly<Record<string, { readonly schema: Schema }>>, kind: unknown): Schema {
  const known = typeof kind === 'string' && Object.hasOwn(kinds, kind) ? kinds[kind] : undefined;
  return known?.schema ?? mixed().test('kind', '${path} is of no known kind', () => false);
}

const kindOf = (value: unknown): unknown =>
  value && typeof value === 'object' && 'kind' in value ? value.kind : undefined;

const switched = () => boolean().strict(true).required();

/** A region, whoever it belongs to. */
export const REGION_SCHEMA = strict({
  id: id(),
  name: text(120),
  parts: array(
    strict({
      how: oneOf(JOINS),
      part: lazy((value: unknown) =>
        strict({
          kind: oneOf(Object.keys(PART_KINDS)),
          settings: ofKind(PART_KINDS, kindOf(value)),
        }),
      ),
      turned: switched(),
      on: switched(),
    }),
  )
    .max(PROJECT_LIMITS.parts)
    .required(),
  smooth: between(0, 0.05).optional(),
  grow: between(-0.1, 0.1),
  feather: between(0, 0.2),
  follow: between(0, 0.2),
  invert: switched(),
});

/** Where: a region of its own, the id of a named one, or everywhere. */
const where = () =>
  lazy((value: unknown) => (typeof value === 'string' ? id() : optional(REGION_SCHEMA))) as unknown as Schema;

const edit = lazy((value: unknown) =>
  strict({
    id: id(),
    kind: oneOf(Object.keys(EDIT_KINDS)),
    settings: ofKind(EDIT_KINDS, kindOf(value)),
    where: where(),
    amount: share(),
    on: switched(),
    rank: mixed().oneOf([...RANKS, undefined]),
  }),
) as unknown as Schema;

const edits = () => array(edit).max(PROJECT_LIMITS.edits).required();

const point = () => tuple([between(-50, 50), between(-50, 50)]).required();

const layerPlace = optional(
  object({
    x: between(-4, 5),
    y: between(-4, 5),
    size: between(0.002, 8),
    turn: between(-360, 360),
    mirrored: switched(),
    corners: tuple([point(), point(), point(), point()]).default(undefined).optional(),
  })
    .noUnknown()
    .strict(true),
);

const version = {
  opacity: share(),
  blend: oneOf(BLEND_MODES),
  linear: switched(),
  where: where(),
  edits: edits(),
  place: layerPlace,
  stand: standSchema,
};

const colour = () => tuple([share(), share(), share()]).required();
const spot = () => between(-50, 50);

const layerParts = {
  ...version,
  id: id(),
  name: text(120),
  shown: switched(),
  distance: between(0, 1e7).optional(),
  version: text(120).optional(),
  alternatives: array(strict({ ...version, id: id(), name: text(120) }))
    .max(PROJECT_LIMITS.alternatives)
    .required(),
};

/** A layer, `depth` groups within. */
function layerAt(depth: number): Schema {
  return lazy((value: unknown) => {
    switch (kindOf(value)) {
      case 'group':
        return depth >= PROJECT_LIMITS.depth
          ? mixed().test('depth', `\${path} lies in too many groups`, () => false)
          : strict({ ...layerParts, kind: oneOf(['group']), layers: layersAt(depth + 1) });
      case 'fill':
        return strict({
          ...layerParts,
          kind: oneOf(['fill']),
          fill: lazy((fill: unknown) =>
            kindOf(fill) === 'gradient'
              ? strict({
                  kind: oneOf(['gradient']),
                  from: colour(),
                  to: colour(),
                  ...{ x0: spot(), y0: spot(), x1: spot(), y1: spot() },
                })
              : strict({ kind: oneOf(['colour']), colour: colour() }),
          ) as unknown as Schema,
        });
      case 'beneath':
        return strict({ ...layerParts, kind: oneOf(['beneath']) });
      default:
        return strict({
          ...layerParts,
          kind: oneOf(['picture']),
          source: lazy((source: unknown) =>
            kindOf(source) === 'set'
              ? strict({ kind: oneOf(['set']), set: id() })
              : strict({ kind: oneOf(['frame', 'plate']), frame: id() }),
          ) as unknown as Schema,
        });
    }
  }) as unknown as Schema;
}

const layersAt = (depth: number) => array(layerAt(depth)).max(PROJECT_LIMITS.layers).required();

const settings = lazy((value: { of?: unknown } | undefined) => {
  switch (value?.of) {
    case 'fit':
      return strict({ of: oneOf(['fit']), motion });
    case 'merge':
      return strict({ of: oneOf(['merge']), method, merge: measures, tone: optional(tone), response });
    default:
      return optional(
        strict({
          of: oneOf(['edits']),
          kinds: array(oneOf(Object.keys(EDIT_KINDS)))
            .max(20)
            .required(),
          set: edits(),
          whole: edits(),
          ratio: mixed().oneOf([...Object.keys(CROP_RATIOS), undefined]),
          upright: boolean().strict(true).optional(),
        }),
      );
  }
});

const registration = strict({
  matrix: homography(),
  model: oneOf(['shift', 'similarity', 'perspective']),
  fitted: boolean().strict(true).required(),
  why: text(400),
  turnDegrees: between(-360, 360),
  scale: between(0, 1e3),
  bound: between(0, 1e6),
  residual: strict({ typical: between(0, 1e6), worst: between(0, 1e6) }),
  tiles: rows(['x', 'y', 'dx', 'dy', 'error'], 2000),
  by: mixed().oneOf(['edges', undefined]),
});

const other = strict({
  projection: oneOf(['auto', ...Object.keys(PROJECTIONS)]),
  border: oneOf(['crop', 'warp']),
  stack: oneOf(['mean', 'median', 'clip', 'max', 'min']),
  background: oneOf(['keep', 'subtract', 'divide']),
  focus: oneOf(['auto', 'depth', 'pyramid']),
  backgroundForm: oneOf(['curve', 'mesh']),
  moments: oneOf(Object.keys(MOMENT_TASTES)),
  seams: mixed<'cut'>().oneOf(['cut']).optional(),
  bend: boolean().strict(true).required(),
  views: oneOf(['merged', 'apart']),
});

const mesh = object({
  projection: oneOf(Object.keys(PROJECTIONS)),
  left: place(),
  top: place(),
  across: between(1e-6, 1e3),
  down: between(1e-6, 1e3),
  columns: between(2, 400).integer(),
  rows: between(2, 400).integer(),
  places: numbers(80000),
  stretch: place(),
  bow: place(),
})
  .noUnknown()
  .strict(true)
  .test(
    'lattice',
    'has as many places as vertices',
    (m) => m === undefined || m.places.length === 2 * m.columns * m.rows,
  )
  .default(undefined)
  .optional();

const apart = object({ px: between(0, 1e6), share: share(), x: place(), y: place() })
  .noUnknown()
  .strict(true)
  .default(undefined)
  .optional();

const bend = object({
  columns: between(2, 400).integer(),
  rows: between(2, 400).integer(),
  cell: between(1, 1e4),
  inside: strict({ x: count(), y: count(), width: count(), height: count() }),
  told: share(),
  shifts: numbers(80000),
  unsure: numbers(40000),
  bends: strict({ typical: between(0, 1e6), most: between(0, 1e6) }),
  residual: strict({ typical: between(0, 1e6), worst: between(0, 1e6) }),
  agreement: strict({ before: share(), after: share() }),
})
  .noUnknown()
  .strict(true)
  .test(
    'lattice',
    'has a shift for every vertex',
    (b) => b === undefined || b.shifts.length === 2 * b.columns * b.rows,
  )
  .default(undefined)
  .optional();

const panorama = object({
  frames: array(id()).max(400).required(),
  fit: strict({
    lens: strict({
      focalPx: between(1, 1e7),
      k1: between(-2, 2),
      width: between(1, 1e6),
      height: between(1, 1e6),
    }),
    // a stray has none; JSON keeps its place as null
    rotations: array(rotation()).max(400).required(),
    pairs: array(
      strict({
        a: count(),
        b: count(),
        overlap: share(),
        matches: between(0, 1e6),
        agreeing: between(0, 1e6),
        residual: between(0, 1e6),
        parallax: between(0, 1e6),
        where: object({ x: place(), y: place() }).noUnknown().strict(true).default(undefined).optional(),
      }),
    )
      .max(20000)
      .required(),
  }),
})
  .noUnknown()
  .strict(true);

const MOST_MADE = 4000;

/** Registrations by the ids of their frames. */
const registrations = lazy((value: unknown) => {
  const keys = Object.keys(value && typeof value === 'object' ? value : {});
  if (keys.length > PROJECT_LIMITS.frames)
    return mixed().test('count', '${path} has too many items', () => false);
  return object(Object.fromEntries(keys.map((key) => [key, registration]))).required();
});

const madeFact = lazy((value: unknown) => {
  const of = value && typeof value === 'object' && 'of' in value ? value.of : undefined;
  if (of === 'mesh') return strict({ of: oneOf(['mesh']), mesh });
  if (of === 'apart') return strict({ of: oneOf(['apart']), apart });
  if (of === 'bend') return strict({ of: oneOf(['bend']), bend });
  if (of === 'fits')
    return strict({
      of: oneOf(['fits']),
      fits: registrations as unknown as Schema,
      panorama: optional(panorama),
    });
  return strict({ of: oneOf(['fit']), fit: registration });
});

const made = lazy((value: unknown) => {
  const keys = Object.keys(value && typeof value === 'object' ? value : {});
  if (keys.length > MOST_MADE)
    return mixed().test('count', `\${path} must have at most ${MOST_MADE} items`, () => false);
  return object(Object.fromEntries(keys.map((key) => [key, madeFact]))).required();
});

/** A whole project of the present version, field by field; unknown fields are refused. */
export const PROJECT_SCHEMA = strict({
  format: oneOf(['marsh-project']),
  version: mixed<typeof PROJECT_VERSION>().oneOf([PROJECT_VERSION]).required(),
  id: id(),
  title: text(200),
  task: text(400).optional(),
  created: date(),
  changed: date(),
  frames: array(frame).max(PROJECT_LIMITS.frames).required(),
  sets: array(
    strict({
      id: id(),
      name: text(120),
      frames: array(id()).max(PROJECT_LIMITS.frames).required(),
      kind: oneOf(SET_KINDS),
      kindChosen: boolean().strict(true).required(),
      reference: text(80),
      referenceChosen: boolean().strict(true).required(),
      why: text(400),
      motion,
      region: optionalRectangle(),
      bent: array(id()).max(PROJECT_LIMITS.frames).default(undefined).optional(),
      prepare: strict({
        balance: oneOf(['shot', 'even']),
        dust: boolean().strict(true).optional(),
        like: array(strict({ frame: id(), matrix: mapMatrix(), curves: mapCurves(false).required() }))
          .max(PROJECT_LIMITS.frames)
          .default(undefined)
          .optional(),
        lens: object({
          distortion: between(-0.5, 0.5),
          vignette: between(-4, 4),
          red: between(-0.05, 0.05),
          blue: between(-0.05, 0.05),
        })
          .noUnknown()
          .strict(true)
          .default(undefined)
          .optional(),
      }),
      method,
      merge: measures,
      response,
      other,
      movers: array(strict({ x: place(), y: place(), frame: text(80) }))
        .max(PROJECT_LIMITS.movers)
        .required(),
      dabs: array(strict({ frame: text(80), ...penLine(MOST_FRAME_DAB_POINTS) }))
        .max(MOST_FRAME_DABS)
        .default(undefined)
        .optional(),
      views: array(strict({ head: id(), frames: array(id()).max(20).required() }))
        .max(400)
        .required(),
      edits: edits(),
    }),
  )
    .max(PROJECT_LIMITS.sets)
    .required(),
  base: text(80),
  regions: array(REGION_SCHEMA).max(PROJECT_LIMITS.regions).required(),
  layers: layersAt(0),
  edits: edits(),
  geometry: strict({
    straighten: object({
      level: line.default(undefined).optional(),
      uprights: tuple([line.required(), line.required()]).default(undefined).optional(),
    })
      .noUnknown()
      .strict(true)
      .required(),
    ratio: oneOf(Object.keys(CROP_RATIOS)),
    upright: switched(),
    crop: optionalRectangle(),
  }),
  printRegion: optionalRectangle(),
  space: spaceSchema,
  watchPoints: array(strict({ id: id(), x: place(), y: place() }))
    .max(PROJECT_LIMITS.watchPoints)
    .required(),
  made,
  log: array(
    strict({
      time: date(),
      text: text(400),
      seconds: between(0, 1e6).optional(),
      findings: array(
        strict({
          label: text(80),
          value: between(-1e12, 1e12),
          unit: text(12),
          verdict: oneOf(['pass', 'watch', 'fail']),
        }),
      )
        .max(40)
        .optional(),
      settings,
    }),
  )
    .max(5000)
    .required(),
});
