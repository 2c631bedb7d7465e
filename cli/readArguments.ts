import { parseArgs } from 'node:util';
import { KIND_NAMES, SET_KINDS, type SetKind } from '@/core/capture/setKind';
import { type ProjectionKind, PROJECTIONS } from '@/core/merge/panorama/projection';
import { BENDING_KINDS } from '@/core/recipe/setGraph';
import { type MergeMethod } from '@/core/recipe/project';
import { type Wish } from '@/core/ground/belong';
import { Problem } from '@/core/proof/problem';
import { type Rectangle } from '@/core/raster/raster';
import { type PairOptions } from '@/core/register/registerPair';

export interface MergeCommand {
  readonly command: 'merge';
  readonly kind: SetKind;
  readonly projection: ProjectionKind | 'auto';
  readonly files: readonly string[];
  readonly out: string;
  readonly report?: string;
  readonly reference?: number;
  readonly motion: PairOptions['motion'];
  readonly region?: Rectangle;
  /** all frames are bent so that near and far lie on the reference at once */
  readonly bend: boolean;
  /** how a bracket is merged */
  readonly method: MergeMethod;
  /** a radiance map is brought to the range of a print first */
  readonly tone: boolean;
  /** a TIFF holds linear light in floats */
  readonly float: boolean;
  /** where the project of what was merged goes */
  readonly project?: string;
}

/** Draws a project file. */
export interface RenderCommand {
  readonly command: 'render';
  readonly project: string;
  readonly out: string;
  readonly report?: string;
  /** long edge of the picture, pixels; full size when absent */
  readonly size?: number;
}

/** Makes a picture look like another. */
export interface MatchCommand {
  readonly command: 'match';
  readonly picture: string;
  readonly reference: string;
  readonly out: string;
  readonly report?: string;
  /** 0 nothing, 1 all of the change */
  readonly strength: number;
  /** both show one place in one light */
  readonly samePlace: boolean;
}

/** Cuts a thing out of a picture. */
export interface CutCommand {
  readonly command: 'cut';
  readonly picture: string;
  /** file that says where the thing is, and where it is not */
  readonly dabs: string;
  readonly out: string;
  readonly report?: string;
}

/** Stands a plate in a picture. */
export interface PlaceCommand {
  readonly command: 'place';
  readonly picture: string;
  readonly plate: string;
  readonly wish: Wish;
  /** file of what is known of both */
  readonly facts?: string;
  readonly out: string;
  readonly project?: string;
  readonly report?: string;
}

export interface InspectCommand {
  readonly command: 'inspect';
  readonly files: readonly string[];
}

export const USAGE = [
  'marsh merge FILES… --kind KIND --out FILE [--report FILE.json] [--reference N] [--motion shift|similarity|perspective] [--region x,y,w,h] [--bend] [--projection …] [--method fusion|radiance] [--tone] [--float] [--project FILE.marsh]',
  `  KIND: ${SET_KINDS.join(', ')}`,
  `  projections of a panorama: ${Object.keys(PROJECTIONS).join(', ')}`,
  'marsh render PROJECT.marsh --out FILE [--size LONG_EDGE] [--report FILE.json]',
  'marsh match TARGET --to REFERENCE --out FILE [--strength 0…1] [--same-place] [--report FILE.json]',
  'marsh cut PICTURE --dabs DABS.json --out CUTOUT.png [--report FILE.json]',
  'marsh place PICTURE PLATE --foot x,y [--plate-foot x,y] (--height PX | --metres M) [--facts FACTS.json] --out FILE [--project FILE.marsh] [--report FILE.json]',
  'marsh inspect FILES…',
].join('\n');

const MOTIONS = ['auto', 'shift', 'similarity', 'perspective'] as const;
const METHODS = ['fusion', 'radiance'] as const;
const OUTPUTS = ['.tif', '.tiff', '.png', '.jpg', '.jpeg', '.exr'];

export type Command =
  MergeCommand | RenderCommand | MatchCommand | CutCommand | PlaceCommand | InspectCommand;

/** Reads the command line; throws a {@link Problem} whose sentence says what is wrong. */
export function readArguments(argv: readonly string[]): Command {
  let parsed: ReturnType<typeof parse>;
  try {
    parsed = parse(argv);
  } catch (thrown) {
    throw new Problem(
      `${thrown instanceof Error ? thrown.message.split('.')[0] : String(thrown)}. Usage:\n${USAGE}`,
    );
  }
  const [command, ...files] = parsed.positionals;
  const { values } = parsed;
  if (!isCommand(command))
    throw new Problem(`Say “merge”, “render”, “match”, “cut”, “place” or “inspect”. Usage:\n${USAGE}`);
  if (files.length === 0) throw new Problem(`Name the files to ${command}. Usage:\n${USAGE}`);
  if (command === 'inspect') return { command, files };
  if (command === 'render') return renderArguments(files, values);
  if (command === 'match') return matchArguments(files, values);
  if (command === 'cut') return cutArguments(files, values);
  if (command === 'place') return placeArguments(files, values);
  const kinds = SET_KINDS.join(', ');
  if (!values.kind) throw new Problem(`Name the kind of set with --kind: ${kinds}.`);
  const kind = SET_KINDS.find((k) => k === values.kind);
  if (!kind) throw new Problem(`“${values.kind}” is no kind of set: use --kind with one of ${kinds}.`);
  const projection = projectionOf(kind, values.projection);
  const out = outputOf(values.out);
  const motion = MOTIONS.find((m) => m === (values.motion ?? 'auto'));
  if (!motion)
    throw new Problem(`“${values.motion}” is no way to move: use --motion shift, similarity or perspective.`);
  const reference = values.reference === undefined ? undefined : Number(values.reference);
  if (reference !== undefined && !(Number.isInteger(reference) && reference >= 0 && reference < files.length))
    throw new Problem(
      `--reference ${values.reference} names no frame: give a number from 0 to ${files.length - 1}.`,
    );
  const region = regionOf(values.region);
  const bend = values.bend === true;
  if (bend && !BENDING_KINDS.has(kind))
    throw new Problem(`--bend does not apply to a ${KIND_NAMES[kind]}: leave it out.`);
  return {
    ...{ command, kind, projection, files, out, reference, motion, region, bend },
    ...{ report: values.report, project: values.project },
    ...methodOf(kind, out, values),
  };
}

const isCommand = (name: string | undefined): name is Command['command'] =>
  ['merge', 'render', 'match', 'cut', 'place', 'inspect'].includes(name ?? '');

function outputOf(out: string | undefined): string {
  if (!out) throw new Problem('Name the file to write: --out FILE.png');
  if (!OUTPUTS.some((end) => out.toLowerCase().endsWith(end)))
    throw new Problem(`“${out}” has no ending that Marsh writes: use .tif, .png, .jpg or .exr.`);
  return out;
}

type Values = ReturnType<typeof parse>['values'];

function renderArguments([project, ...more]: readonly string[], values: Values): RenderCommand {
  if (more.length > 0) throw new Problem(`One project is drawn at a time: leave “${more[0]}” out.`);
  const size = values.size === undefined ? undefined : Number(values.size);
  if (size !== undefined && !(Number.isInteger(size) && size >= 16))
    throw new Problem(`--size ${values.size} is no long edge: give whole pixels, at least 16.`);
  return { command: 'render', project, out: outputOf(values.out), report: values.report, size };
}

function matchArguments([picture, ...more]: readonly string[], values: Values): MatchCommand {
  if (more.length > 0) throw new Problem(`One picture is matched at a time: leave “${more[0]}” out.`);
  const { to, report } = values;
  if (!to) throw new Problem('Name the picture that it should look like: --to REFERENCE');
  const strength = Number(values.strength ?? 1);
  if (!(strength >= 0 && strength <= 1))
    throw new Problem(`--strength ${values.strength} is no share of the change: give a number from 0 to 1.`);
  return {
    command: 'match',
    picture,
    reference: to,
    out: outputOf(values.out),
    report,
    strength,
    samePlace: values['same-place'] === true,
  };
}

function cutArguments([picture, ...more]: readonly string[], values: Values): CutCommand {
  if (more.length > 0) throw new Problem(`One picture is cut at a time: leave “${more[0]}” out.`);
  const { dabs, out, report } = values;
  if (!dabs) throw new Problem('Say where the thing is: --dabs DABS.json');
  if (!out) throw new Problem('Name the file to write: --out CUTOUT.png');
  if (!out.toLowerCase().endsWith('.png'))
    throw new Problem(`“${out}” is no PNG: a cut-out keeps its opacity in one. Use the ending .png.`);
  return { command: 'cut', picture, dabs, out, report };
}

function placeArguments([picture, plate, ...more]: readonly string[], values: Values): PlaceCommand {
  if (plate === undefined)
    throw new Problem(`Name the plate after the picture: marsh place ${picture} PLATE.png`);
  if (more.length > 0) throw new Problem(`One plate is placed at a time: leave “${more[0]}” out.`);
  const { facts, project, report } = values;
  const foot = pointOf('--foot', values.foot);
  if (!foot) throw new Problem('Say where the plate stands: --foot x,y in pixels of the picture.');
  const plateFoot = pointOf('--plate-foot', values['plate-foot']);
  const [px, metres] = [sizeOf('--height', values.height), sizeOf('--metres', values.metres)];
  if ((px === undefined) === (metres === undefined))
    throw new Problem('Say how tall it is, once: --height in pixels of the picture, or --metres.');
  return {
    ...{ command: 'place', picture, plate, out: outputOf(values.out) },
    ...{ facts, project, report },
    wish: {
      foot,
      ...(plateFoot ? { plateFoot } : {}),
      height: px === undefined ? { metres: metres ?? 0 } : { px },
    },
  };
}

/** `x,y` in pixels. */
function pointOf(name: string, value: string | undefined): readonly [number, number] | undefined {
  if (value === undefined) return undefined;
  const [x, y, ...more] = value.split(',').map((v) => (v.trim() === '' ? NaN : Number(v)));
  if (more.length > 0 || !Number.isFinite(x) || !Number.isFinite(y))
    throw new Problem(`${name} ${value} is no place: give x,y in pixels.`);
  return [x, y];
}

function sizeOf(name: string, value: string | undefined): number | undefined {
  if (value === undefined) return undefined;
  const size = Number(value);
  if (!(size > 0 && Number.isFinite(size)))
    throw new Problem(`${name} ${value} is no height: give a number above 0.`);
  return size;
}

/** How a bracket is merged, and whether its light is kept as it is. */
function methodOf(
  kind: SetKind,
  out: string,
  values: Values,
): Pick<MergeCommand, 'method' | 'tone' | 'float'> {
  const method = METHODS.find((m) => m === (values.method ?? 'fusion'));
  if (!method) throw new Problem(`“${values.method}” is no way to merge: use --method fusion or radiance.`);
  if (values.method !== undefined && kind !== 'bracket')
    throw new Problem(`--method does not apply to a ${KIND_NAMES[kind]}: leave it out.`);
  const [tone, float] = [values.tone ?? false, values.float ?? false];
  if (tone && method !== 'radiance')
    throw new Problem('--tone maps a radiance merge: add --method radiance, or leave it out.');
  if (float && !/\.tiff?$/i.test(out))
    throw new Problem(`--float writes a TIFF: name “${out}” with the ending .tif, or leave it out.`);
  return { method, tone, float };
}

function projectionOf(kind: SetKind, value: string | undefined): ProjectionKind | 'auto' {
  if (value === undefined) return 'auto';
  if (kind !== 'panorama')
    throw new Problem(`--projection does not apply to a ${KIND_NAMES[kind]}: leave it out.`);
  const known = Object.keys(PROJECTIONS) as ProjectionKind[];
  const projection = known.find((p) => p === value);
  if (!projection)
    throw new Problem(`“${value}” is no projection: use --projection with one of ${known.join(', ')}.`);
  return projection;
}

/** `x,y,w,h` in pixels of the reference. */
function regionOf(value: string | undefined): Rectangle | undefined {
  if (value === undefined) return undefined;
  const [x, y, width, height, ...more] = value.split(',').map((v) => (v.trim() === '' ? NaN : Number(v)));
  if (more.length > 0 || ![x, y, width, height].every(Number.isFinite) || !(width >= 16 && height >= 16))
    throw new Problem(
      `--region ${value} is no rectangle: give x,y,width,height in pixels of the reference, at least 16 × 16.`,
    );
  return { x, y, width, height };
}

const text = { type: 'string' } as const;
const flag = { type: 'boolean' } as const;

function parse(argv: readonly string[]) {
  return parseArgs({
    args: [...argv],
    allowPositionals: true,
    options: {
      kind: text,
      out: text,
      report: text,
      reference: text,
      motion: text,
      region: text,
      projection: text,
      method: text,
      bend: flag,
      tone: flag,
      float: flag,
      project: text,
      size: text,
      dabs: text,
      to: text,
      strength: text,
      'same-place': flag,
      foot: text,
      'plate-foot': text,
      height: text,
      metres: text,
      facts: text,
    },
  });
}
