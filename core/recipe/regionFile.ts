import { array, type Schema, ValidationError } from 'yup';
import { Problem } from '../proof/problem';
import { type Region } from '../region/region';
import { PROJECT_LIMITS } from './projectLimits';
import { REGION_SCHEMA } from './projectSchema';
import { between, oneOf, strict } from './schemaParts';

/** A region by itself, as JSON: it can be taken into another project. */
interface RegionFile {
  readonly marsh: 'region';
  readonly version: 1;
  /** the region, then the named ones that it is made of */
  readonly regions: readonly Region[];
}

/** characters of a file that may be a region: strokes of hours */
const LONGEST = 40e6;

const SCHEMA: Schema = strict({
  marsh: oneOf(['region']),
  version: between(1, 1),
  regions: array(REGION_SCHEMA).min(1).max(PROJECT_LIMITS.regions).required(),
});

const namedIn = (region: Region): string[] =>
  region.parts.flatMap(({ part }) => (part.kind === 'named' ? [part.settings.region] : []));

/** A region with all that it is made of, as a file. Lengths are fractions of the long edge, so that it fits a picture of any size. @param named regions of its project */
export function regionFile(region: Region, named: readonly Region[]): string {
  const regions = [region];
  for (const each of regions)
    for (const id of namedIn(each)) {
      const other = named.find((r) => r.id === id);
      if (other && !regions.some((r) => r.id === id)) regions.push(other);
    }
  return JSON.stringify({ marsh: 'region', version: 1, regions } satisfies RegionFile, null, 1);
}

/**
 * The regions of a file, each with an id of its own; the first is what was saved.
 * @param newId a fresh id with every call
 * @throws Problem naming the file and what is wrong with it
 */
export function readRegionFile(file: string, text: string, newId: () => string): readonly Region[] {
  const refuse = (why: string): never => {
    throw new Problem(
      `“${file}” holds no region of Marsh: ${why}. Nothing was changed; choose a file that “Save it as a file” wrote.`,
    );
  };
  if (text.length > LONGEST) return refuse('it is too large');
  let regions: readonly Region[];
  try {
    ({ regions } = SCHEMA.validateSync(JSON.parse(text), { strict: true }) as RegionFile);
  } catch (thrown) {
    return refuse(thrown instanceof ValidationError ? thrown.errors[0].slice(0, 160) : 'it is no JSON');
  }
  const ids = new Map(regions.map((r) => [r.id, newId()]));
  if (ids.size < regions.length) refuse('two of its regions are one');
  return regions.map((region) => ({
    ...region,
    id: ids.get(region.id) ?? newId(),
    parts: region.parts.map((p) =>
      p.part.kind === 'named'
        ? {
            ...p,
            part: {
              kind: 'named',
              settings: { region: ids.get(p.part.settings.region) ?? refuse('a part of it is missing') },
            },
          }
        : p,
    ),
  }));
}
