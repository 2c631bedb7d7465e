import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const PARTS = [
  'app', 'benchmarks', 'camera', 'cli', 'core', 'e2e', 'engine', 'gauntlet', 'stations', 'store', 'tests', 'ui',
]; // prettier-ignore

/** file → the project's own files that it imports, types as well */
function importsOf(files: ReadonlySet<string>): Map<string, string[]> {
  const options: ts.CompilerOptions = {
    moduleResolution: ts.ModuleResolutionKind.Bundler,
    module: ts.ModuleKind.ESNext,
    allowImportingTsExtensions: true,
    noEmit: true,
    paths: { '@/*': [join(ROOT, '*')] },
  };
  const cache = ts.createModuleResolutionCache(ROOT, (name) => name, options);
  return new Map(
    [...files].map((file) => {
      const { importedFiles } = ts.preProcessFile(readFileSync(file, 'utf8'), true, true);
      const own = importedFiles.flatMap(({ fileName }) => {
        if (!/^(\.|@\/)/.test(fileName)) return [];
        const at = ts.resolveModuleName(fileName, file, options, ts.sys, cache).resolvedModule;
        return at && files.has(at.resolvedFileName) ? [at.resolvedFileName] : [];
      });
      return [file, own];
    }),
  );
}

/** A way from a file back to itself, over any others; undefined where there is none. */
function circle(imports: ReadonlyMap<string, readonly string[]>): string[] | undefined {
  const done = new Set<string>();
  const way: string[] = [];
  const follow = (file: string): string[] | undefined => {
    if (way.includes(file)) return [...way.slice(way.indexOf(file)), file];
    if (done.has(file)) return undefined;
    way.push(file);
    for (const next of imports.get(file) ?? []) {
      const found = follow(next);
      if (found) return found;
    }
    way.pop();
    done.add(file);
    return undefined;
  };
  for (const file of imports.keys()) {
    const found = follow(file);
    if (found) return found;
  }
  return undefined;
}

test('no file imports itself by way of others, not for its types either', () => {
  const files = PARTS.flatMap((part) =>
    readdirSync(join(ROOT, part), { recursive: true, encoding: 'utf8' })
      .filter((name) => /(?<!\.d)\.tsx?$/.test(name))
      .map((name) => join(ROOT, part, name)),
  );
  const imports = importsOf(new Set(files));
  expect([...imports.values()].flat().length).toBeGreaterThan(files.length);
  expect(circle(imports)?.map((file) => relative(ROOT, file))).toBeUndefined();
  // what a circle of types alone looks like
  expect(circle(new Map([['a', ['b']], ['b', ['c']], ['c', ['b']]]))).toEqual(['b', 'c', 'b']); // prettier-ignore
});
