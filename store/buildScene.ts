import { compile } from '@/core/graph/compile';
import { type CompiledPicture, type CompileOptions } from '@/core/graph/compiledPicture';
import { type Node } from '@/core/graph/graph';
import { drawable, isBeforehand } from '@/core/graph/missing';
import { type Value } from '@/core/graph/tile';
import { isAway } from '@/core/raster/awayPixels';
import { sharedFloats } from '@/core/raster/raster';
import { panoramaCanvas, setGrid } from '@/core/recipe/pictureGrid';
import { fitOf, panoramaOf, plates, referenceOf } from '@/core/recipe/setFrames';
import { type Project, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { standIns, viewsOf } from '@/core/recipe/views';
import { type DrawnGraph, type PictureScene, type SetScene, type TurnedSet } from '@/core/view/viewScene';
import { scopesOf } from './activeSet';
import { type BuiltPicture, type MergedState } from './benchState';
import { drawnLevels, joinedLevels, type MadeState, shownMerge } from './madePixels';

/** What a merged set gives to the nodes that take it. */
function mergedValues(merged: MergedState): { merge: Value; noise: Value; base?: Value; distance?: Value } {
  const { scene, toneBase } = merged;
  const [{ width, height }] = scene.levels;
  return {
    merge: { is: 'picture', levels: scene.levels },
    noise: { is: 'fact', value: scene.noise },
    ...(toneBase ? { base: { is: 'fact' as const, value: toneBase } } : {}),
    ...(scene.depth
      ? {
          distance: {
            is: 'field' as const,
            width: Math.ceil(width / 2),
            height: Math.ceil(height / 2),
            cell: 2,
            values: distances(scene.depth, scene.frames.length),
          },
        }
      : {}),
  };
}

const known = new WeakMap<Float32Array, Float32Array>();

/** Places along the frames of a focus set as distances, 0 the nearest … 1 the farthest. */
function distances(depth: Float32Array, frames: number): Float32Array {
  const before = known.get(depth);
  if (before) return before;
  const made = sharedFloats(depth.length);
  const last = Math.max(1, frames - 1);
  for (let i = 0; i < depth.length; i++) made[i] = depth[i] / last;
  known.set(depth, made);
  return made;
}

/** what of a bench's state a picture is built from, beside its recipe */
const MADE = [
  'decoded',
  'made',
  'cuts',
  'merged',
  'proxies',
  'rival',
] as const satisfies readonly (keyof MadeState)[];

/** What was last built of a recipe: the table and the next stage ask for the same. */
const builtOf = new WeakMap<
  Project,
  { readonly from: MadeState; readonly built: BuiltPicture | undefined }
>();

/** {@link compileWith}, remembered as long as neither the recipe nor what is at hand has changed. */
export function buildPicture(
  state: MadeState,
  project: Project,
  options: CompileOptions = {},
): BuiltPicture | undefined {
  if (Object.keys(options).length > 0) return compileWith(state, project, options);
  const before = builtOf.get(project);
  if (before && MADE.every((key) => before.from[key] === state[key])) return before.built;
  const built = compileWith(state, project, options);
  const { decoded, made, cuts, merged, proxies, rival } = state;
  builtOf.set(project, { from: { decoded, made, cuts, merged, proxies, rival }, built });
  return built;
}

/**
 * Compiles a recipe with what is at hand: a set that is not merged as the recipe asks is stood in for by what was merged last, and what is not
 * there at all is left out.
 */
function compileWith(state: MadeState, project: Project, options: CompileOptions): BuiltPicture | undefined {
  const names: Record<string, string> = {};
  const values = new Map<string, Value>();
  const stoodIn = new Map<string, ReturnType<typeof mergedValues>>();
  for (const scope of scopesOf(project)) {
    const nodes = setGraph(scope);
    const shown =
      [state.merged[scope.set.id], state.rival].find((m) => m?.key === nodes.merge) ??
      shownMerge(state, scope);
    if (!shown || !fitsGrid(shown, scope)) continue;
    const made = mergedValues(shown);
    if (shown.key === nodes.merge && shown !== state.proxies[scope.set.id]?.scene) {
      values.set(nodes.merge, made.merge);
      values.set(nodes.noise, made.noise);
      if (nodes.toneBase && made.base) values.set(nodes.toneBase, made.base);
      if (nodes.distance && made.distance) values.set(nodes.distance, made.distance);
    } else {
      const name = nameOf(shown);
      names[scope.set.id] = name;
      stoodIn.set(name, made);
    }
  }
  const hashes = new Map(project.frames.map((f) => [f.hash, f]));
  const valueOf = (graph: CompiledPicture['graph'], hash: string): Value | undefined => {
    const known = values.get(hash) ?? state.made[hash] ?? state.cuts[hash];
    if (known) return known;
    const node = graph.get(hash);
    return node && valueOfNode(node, graph);
  };
  const valueOfNode = (node: Node, graph: CompiledPicture['graph']): Value | undefined => {
    if (node.kind === 'frame') {
      const { hash } = node.settings as { readonly hash: string };
      const frame = hashes.has(hash) ? state.decoded[hash] : undefined;
      // one that is away is read again first
      return frame && !isAway(frame.levels) ? { is: 'picture', levels: frame.levels } : undefined;
    }
    // what a stand-in stands for, and what is known of it
    const [of] = node.kind === 'standIn' ? [node] : node.inputs.map((input) => graph.get(input));
    if (of?.kind !== 'standIn') return undefined;
    const made = stoodIn.get((of.settings as { readonly name: string }).name);
    switch (node.kind) {
      case 'standIn':
        return made?.merge;
      case 'noiseOf':
        return made?.noise;
      case 'toneBaseOf':
        return made?.base;
      case 'distanceOf':
        return made?.distance;
      default:
        return undefined;
    }
  };
  const compiled = compile(project, {
    ...options,
    standIns: names,
    has: (hash, graph) => valueOf(graph, hash) !== undefined,
  });
  return compiled && { compiled, valueOf: (hash) => valueOf(compiled.graph, hash) };
}

const numbers = new WeakMap<object, number>();
let last = 0;

/** Names what was merged: two with one name have the same pixels. */
function nameOf(merged: MergedState): string {
  const { levels } = merged.scene;
  const number = numbers.get(levels) ?? ++last;
  numbers.set(levels, number);
  return `${merged.key} ${number}`;
}

/** A merge of another size belongs to a grid that is gone. */
function fitsGrid({ scene }: MergedState, scope: SetScope): boolean {
  const grid = setGrid(scope);
  return scene.levels[0].width === grid?.width && scene.levels[0].height === grid.height;
}

/** What the evaluator needs to draw some nodes; undefined while something that they are made from is not there. */
export function drawnGraph(
  { compiled, valueOf }: BuiltPicture,
  wanted: readonly string[],
): DrawnGraph | undefined {
  const nodes = drawable(compiled.graph, wanted);
  const made = new Map<string, Value>();
  for (const node of nodes) {
    if (!isBeforehand(node)) continue;
    const value = valueOf(node.hash);
    if (!value) return undefined;
    made.set(node.hash, value);
  }
  return { nodes: new Map(nodes.map((n) => [n.hash, n])), made };
}

/** The picture as it can be drawn, with some more of its nodes. */
export function pictureScene(built: BuiltPicture, more: readonly string[] = []): PictureScene | undefined {
  const { result, finished, straighten } = built.compiled;
  const drawn = drawnGraph(built, [result, finished, ...more]);
  return drawn && { ...drawn, result, finished, straighten };
}

/** A panorama's frames on its paper; undefined for other sets and before the fit. */
function turnedSet(state: MadeState, scope: SetScope): TurnedSet | undefined {
  const canvas = panoramaCanvas(scope);
  const panorama = panoramaOf(scope);
  const reference = referenceOf(scope);
  if (!canvas || !panorama || !reference) return undefined;
  // merged brackets are all as bright as each other
  const alike = viewsOf(scope).length > 0;
  return {
    canvas,
    fit: panorama.fit,
    reference: panorama.frames.indexOf(standIns(scope)(reference.id)),
    frames: panorama.frames.map((id) => {
      const frame = scope.frames.find((f) => f.id === id);
      return {
        levels: frame && state.decoded[frame.hash] && joinedLevels(state, scope, frame),
        stops: frame && !alike ? frame.stops - reference.stops : 0,
      };
    }),
  };
}

/** A set to be looked at by itself, and the pictures beside it that belong to none; undefined while its reference is not decoded. */
export function setScene(state: MadeState, project: Project, scope: SetScope): SetScene | undefined {
  const reference = referenceOf(scope);
  const grid = setGrid(scope);
  if (!reference || !grid || !state.decoded[reference.hash]) return undefined;
  const merge = shownMerge(state, scope);
  const turned = turnedSet(state, scope);
  const isTurned = scope.set.kind === 'panorama';
  return {
    width: grid.width,
    height: grid.height,
    ...(merge && fitsGrid(merge, scope) ? { merge: merge.scene } : {}),
    ...(turned ? { turned } : {}),
    frames: [...scope.frames, ...plates(project)].flatMap((frame) => {
      if (!state.decoded[frame.hash]) return [];
      const fit = fitOf(scope, frame);
      const own = scope.frames.includes(frame);
      return [
        {
          id: frame.id,
          levels: own ? drawnLevels(state, scope, frame) : state.decoded[frame.hash].levels,
          // a panorama's canvas is not the reference's grid: its frames are shown as they were shot
          ...(own && fit?.fitted && !isTurned ? { matrix: fit.matrix } : {}),
          stops: frame.stops - reference.stops,
        },
      ];
    }),
  };
}
