import { allLayers } from '@/core/layers/layer';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { placedFrames } from '@/core/recipe/cropOf';
import { isBeforehand } from '@/core/graph/missing';
import { contentHash } from '@/core/graph/contentHash';
import { type Project } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { renderPicture } from '@/engine/renderPicture';
import { scopesOf } from '../activeSet';
import { type BenchState, type BuiltPicture } from '../benchState';
import { buildPicture, drawnGraph, pictureScene } from '../buildScene';
import { cropInForce } from '../cropInForce';
import { allCut } from './cutStage';
import { allRepaired } from './repairStage';
import { allStand } from './standStage';
import { quiet, QUIET_PREVIEW, QUIET_PROOF } from './quiet';
import { type Stage } from './stage';

const PREVIEW_EDGE = 900;

/** The picture of a recipe whose sets are all merged as it asks, all of whose things are cut out, and whose gaps are filled; undefined until then. */
function withPixels(state: BenchState, project: Project): BuiltPicture | undefined {
  const made = scopesOf(project).every(
    (scope) => scope.frames.length === 0 || state.merged[scope.set.id]?.key === setGraph(scope).merge,
  );
  return made && allCut(state, project) && allStand(state, project) && allRepaired(state, project)
    ? buildPicture(state, project)
    : undefined;
}

/** Pictures whose noise an edit of their layer asks for and that was not measured yet. */
function lackingNoise(
  project: Project,
  { compiled, valueOf }: BuiltPicture,
): { readonly hash: string; readonly image: EncodedImage }[] {
  if (!allLayers(project.layers).some((l) => l.edits.some((e) => e.kind === 'noise'))) return [];
  return [...compiled.graph.values()].flatMap((node) => {
    const [input] = node.kind === 'noiseOf' ? node.inputs.map((hash) => compiled.graph.get(hash)) : [];
    if (!input || !isBeforehand(input) || valueOf(node.hash)) return [];
    const value = valueOf(input.hash);
    return value?.is === 'picture' ? [{ hash: node.hash, image: value.levels[0] }] : [];
  });
}

/** The picture of a recipe for which everything is made that it asks for; undefined until then. */
export function upToDate(state: BenchState, project: Project): BuiltPicture | undefined {
  const built = withPixels(state, project);
  return built && lackingNoise(project, built).length === 0 ? built : undefined;
}

/** Measures the noise of pictures whose layers take it out. */
export function plateNoiseStage(state: BenchState, project: Project): Stage | undefined {
  const built = withPixels(state, project);
  const lacking = built ? lackingNoise(project, built) : [];
  if (lacking.length === 0) return undefined;
  return {
    key: `noise ${lacking.map((l) => l.hash).join(' ')}`,
    text: '',
    run: async (pool, signal) => {
      const found = await Promise.all(
        lacking.map(async ({ hash, image }) => {
          const value = await pool.run((tasks) => tasks.noise(image), { signal });
          return [hash, { is: 'fact', value }] as const;
        }),
      );
      return (now) => ({ made: { ...now.made, ...Object.fromEntries(found) } });
    },
  };
}

/** The small finished picture that findings and charts are made from. */
export function finishStage(state: BenchState, project: Project): Stage | undefined {
  const built = upToDate(state, project);
  const crop = cropInForce(project);
  if (!built || !crop) return undefined;
  const { finished, width, height } = built.compiled;
  const drawn = drawnGraph(built, [finished]);
  const key = `${finished} ${contentHash({ crop })}`;
  if (!drawn || key === state.finished?.key) return undefined;
  return {
    key,
    text: '',
    run: async (pool, signal) => {
      if (state.finished) await quiet(QUIET_PREVIEW, signal);
      const level = Math.max(0, Math.ceil(Math.log2(Math.max(crop.width, crop.height) / PREVIEW_EDGE)));
      const image = await renderPicture(pool, drawn, finished, crop, 255, level, { signal });
      const frames = placedFrames(project);
      const found = await pool.run((tasks) => tasks.measureFinished(image, crop, { width, height }, frames), {
        signal,
      });
      return () => ({ finished: { key, image, ...found } });
    },
  };
}

export function proofStage(state: BenchState, project: Project): Stage | undefined {
  const { finished, proofed } = state;
  const built = upToDate(state, project);
  const crop = cropInForce(project);
  if (!finished || !built || !crop) return undefined;
  const { compiled } = built;
  const painted = compiled.layers.flatMap(({ painted: isPainted, beneath, everywhere, mask }) =>
    isPainted && everywhere && mask ? [{ beneath, everywhere, mask }] : [],
  );
  const key = `${finished.key} ${contentHash({ print: project.printRegion, painted })}`;
  if (proofed?.key === key) return undefined;
  const picture = pictureScene(
    built,
    painted.flatMap((p) => [p.beneath, p.everywhere, p.mask]),
  );
  if (!picture) return undefined;
  return {
    key: `proof ${key}`,
    text: '',
    run: async (pool, signal) => {
      if (proofed) await quiet(QUIET_PROOF, signal);
      const { image } = finished;
      const scene = { picture, width: compiled.width, height: compiled.height, painted };
      const made = await pool.run((tasks) => tasks.proof(scene, image, crop, project.printRegion), {
        signal,
      });
      return () => ({ proofed: { key, made } });
    },
  };
}
