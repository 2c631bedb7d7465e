import { problemSentence } from '@/core/proof/problem';
import { readRegionFile, regionFile } from '@/core/recipe/regionFile';
import { type Project } from '@/core/recipe/project';
import { type Region } from '@/core/region/region';
import { type BenchActions } from '@/store/benchState';
import { bringRegion, type RegionOwner } from '@/store/edits/regions';
import { fileStem } from '@/store/fileStem';
import { download } from '../download';
import { pickFile } from '../pickFile';
import { REGION_TEXT as TEXT } from './text';

/** Saves a region, with the named ones that it is made of, as a file for other projects. */
export function saveRegion(region: Region, project: Project): void {
  download({
    name: `${fileStem(region.name || `${project.title} region`)}.json`,
    type: 'application/json',
    bytes: new TextEncoder().encode(regionFile(region, project.regions)),
  });
}

/** Asks for a file and takes the region in it over; what is none changes nothing and is said. @param name of what has the region */
export async function bringFrom(
  owner: RegionOwner,
  name: string,
  actions: Pick<BenchActions, 'edit' | 'report'>,
): Promise<void> {
  const file = await pickFile('.json,application/json');
  if (!file) return;
  try {
    const regions = readRegionFile(file.name, await file.text(), () => crypto.randomUUID());
    actions.edit(`${TEXT.brought} for ${name}`, bringRegion(owner, regions));
  } catch (thrown) {
    actions.report(problemSentence(thrown, `Reading “${file.name}”`));
  }
}
