import { strToU8, zipSync } from 'fflate';
import { packProject } from '@/core/codecs/packProject';
import { sha256 } from '@/core/codecs/sha256';
import { randomSource } from '@/core/raster/random';
import { type Project } from '@/core/recipe/project';
import { setScope } from '@/core/recipe/setFrames';
import { type SetGraph, setGraph } from '@/core/recipe/setGraph';
import { mutateBytes } from './mutateBytes';
import { mutateProject } from './mutateProject';
import { sampleProjects } from './sampleProjects';

/** What was measured, under the names that another graph of the same set gives it. */
function renamed(made: Project['made'], from: SetGraph, to: SetGraph): Project['made'] {
  const names = new Map([
    [from.fits.hash, to.fits.hash],
    ...[...(from.fits.pairs ?? [])].map(([id, hash]) => [hash, to.fits.pairs?.get(id) ?? hash] as const),
  ]);
  return Object.fromEntries([...names].flatMap(([hash, next]) => (made[hash] ? [[next, made[hash]]] : [])));
}

/** A project whose originals are what it says, whatever they hold. */
async function withOriginals(
  project: Project,
): Promise<{ project: Project; originals: Map<string, Uint8Array> }> {
  const bytes = project.frames.map((f) => strToU8(`the original of ${f.file}`));
  const hashes = await Promise.all(bytes.map(sha256));
  const frames = project.frames.map((f, i) => ({ ...f, hash: hashes[i], bytes: bytes[i].length }));
  const scope = setScope(project, project.base);
  const own = scope && { ...scope, frames: frames.filter((f) => scope.set.frames.includes(f.id)) };
  // what was measured is named by what it was measured from
  const made =
    scope && own ? renamed(project.made, setGraph(scope), setGraph({ ...own, set: { ...own.set } })) : {};
  return {
    project: { ...project, frames, made },
    originals: new Map(hashes.map((h, i) => [h, bytes[i]])),
  };
}

/** Project files that were changed in their recipe, or in the bytes of the zip. */
export async function* hostileProjects(count: number, seed: number): AsyncGenerator<Uint8Array> {
  const samples = await Promise.all(sampleProjects().map(withOriginals));
  for (let k = 0; k < count; k++) {
    const random = randomSource(seed * 100_003 + k);
    const { project, originals } = samples[k % samples.length];
    if (k % 10 === 9) yield mutateBytes(packProject({ project, originals }), random);
    else if (k % 50 === 8) yield deep(originals);
    else yield packProject({ project: mutateProject(project, random), originals });
  }
}

/** A recipe nested as deep as a parser bears. */
function deep(originals: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const nested = `${'{"frames":['.repeat(20_000)}${']}'.repeat(20_000)}`;
  return zipSync({
    'project.json': strToU8(nested),
    ...Object.fromEntries([...originals].map(([h, b]) => [`originals/${h}`, b])),
  });
}
