import { allLayers } from '../layers/layer';
import { type Region } from '../region/region';
import { type Project } from './project';

/** Every region of a project: the named ones, and those that belong to one layer or edit. */
export function regionsOf({
  regions,
  sets,
  layers,
  edits,
}: Pick<Project, 'regions' | 'sets' | 'layers' | 'edits'>): Region[] {
  const all = allLayers(layers);
  const versions = all.flatMap((l) => [l, ...l.alternatives]);
  const wheres = [
    ...versions.map((v) => v.where),
    ...[...edits, ...sets.flatMap((s) => s.edits), ...versions.flatMap((v) => v.edits)].map((e) => e.where),
  ];
  return [...regions, ...wheres.filter((w): w is Region => typeof w === 'object')];
}
