// npm run bench: Marsh with two workers against OpenCV’s wasm build, and native OpenCV where Debian’s python3-opencv is installed; then the
// stand-in camera, layers against libvips, and the interface in Chromium.
import { installPackages } from './install.mjs';

installPackages();
const { bundle, CLI_ENTRIES } = await import('./bundle.mjs');
await bundle({
  ...CLI_ENTRIES,
  benchmarks: 'benchmarks/main.ts',
  benchmarkKinds: 'benchmarks/kinds.ts',
  benchmarkSet: 'benchmarks/ownSet.ts',
  benchmarkCamera: 'benchmarks/camera.ts',
  benchmarkLayers: 'benchmarks/layers.ts',
  writeLayered: 'benchmarks/writeLayered.ts',
  // by hand, with photographs: node dist/benchmarkFar.mjs PICTURES…, node dist/benchmarkMatches.mjs PICTURES…
  benchmarkFar: 'benchmarks/farPairs.ts',
  benchmarkMatches: 'benchmarks/matches.ts',
});
await import('../dist/benchmarks.mjs');
await import('../dist/benchmarkKinds.mjs');
await import('../dist/benchmarkCamera.mjs');
await import('../dist/benchmarkLayers.mjs');
const { shoot } = await import('./shoot.mjs');
const { buildIfStale } = await import('./build.mjs');
await shoot();
await buildIfStale();
await import('../benchmarks/interface.mjs');
