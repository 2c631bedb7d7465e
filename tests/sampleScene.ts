import { type MeasuredFrame } from '@/core/capture/measuredFrame';
import { compile } from '@/core/graph/compile';
import { type CompiledPicture, type CompileOptions } from '@/core/graph/compiledPicture';
import { drawable, isBeforehand } from '@/core/graph/missing';
import { type Value } from '@/core/graph/tile';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { halveImage } from '@/core/raster/halveImage';
import { type Frame, type Project } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { type PictureScene, type SceneFrame, type SceneMerge, type ViewScene } from '@/core/view/viewScene';
import { referenceRegistration } from '@/core/register/registration';
import { baseOf, sampleFrame, sampleProject, withFits } from './sampleProject';

/** What a scene is made of, without a store. */
export interface SceneParts {
  readonly merge: EncodedImage;
  readonly noise?: number;
  readonly shares?: SceneMerge['shares'];
  /** pixels of frames by id */
  readonly frames?: Readonly<Record<string, EncodedImage>>;
}

/** A project of two frames, of a size, with pixels merged as they are given. */
export function sizedProject(width: number, height: number): Project {
  const project = sampleProject();
  const frames = project.frames.map((f) => ({ ...f, width, height }));
  const fit = referenceRegistration();
  return withFits({ ...project, frames }, { dark: fit, mid: fit, light: fit });
}

/** Levels of a small picture. */
export const twoLevels = (image: EncodedImage): EncodedImage[] => [image, halveImage(image)];

/** A project as a scene, its merge and its frames given. */
export function sceneOf(
  project: Project,
  { merge, noise = 0, shares, frames = {} }: SceneParts,
  options: CompileOptions = {},
): { readonly scene: ViewScene; readonly compiled: CompiledPicture } {
  const scope = baseOf(project);
  const nodes = setGraph(scope);
  const values = new Map<string, Value>([
    [nodes.merge, { is: 'picture', levels: twoLevels(merge) }],
    [nodes.noise, { is: 'fact', value: noise }],
  ]);
  for (const frame of project.frames) {
    const image = frames[frame.id];
    if (image) values.set(frameNode(project, frame), { is: 'picture', levels: twoLevels(image) });
  }
  const compiled = compile(project, { ...options, has: (hash) => values.has(hash) });
  if (!compiled) throw new Error('there is nothing to see');
  const { result, finished, straighten, width, height } = compiled;
  const wanted = [...compiled.graph.keys()].filter((hash) =>
    drawable(compiled.graph, [hash]).every((n) => !isBeforehand(n) || values.has(n.hash)),
  );
  const drawn = drawable(compiled.graph, wanted);
  const picture: PictureScene = {
    ...{ result, finished, straighten },
    nodes: new Map(drawn.map((n) => [n.hash, n])),
    made: values,
  };
  const shots = project.frames.flatMap((f): SceneFrame[] => {
    const image = frames[f.id];
    const matrix = referenceRegistration().matrix;
    return image ? [{ id: f.id, levels: twoLevels(image), matrix, stops: f.stops }] : [];
  });
  return {
    compiled,
    scene: {
      ...{ width, height, picture },
      set: {
        ...{ width, height, frames: shots },
        merge: {
          levels: twoLevels(merge),
          frames: scope.frames.map((f) => f.id),
          shares: shares ?? scope.frames.map(() => new Uint8Array(merge.width * merge.height)),
          noise,
        },
      },
    },
  };
}

/** The node that a frame's pixels stand for. */
function frameNode(project: Project, frame: Frame): string {
  const own = setGraph(baseOf(project)).decoded.get(frame.id);
  if (own !== undefined) return own;
  const compiled = compile(project);
  const node = [...(compiled?.graph.values() ?? [])].find(
    (n) => n.kind === 'frame' && (n.settings as { readonly hash: string }).hash === frame.hash,
  );
  return node?.hash ?? '';
}

/** A picture by itself, of a size. */
export const samplePlate = (id: string, width: number, height: number): Frame =>
  sampleFrame(id, 0, { width, height, used: false });

/** A frame as findings see it. */
export function measuredFrame(name: string, change: Partial<MeasuredFrame> = {}): MeasuredFrame {
  return {
    name,
    width: 600,
    height: 400,
    stops: 0,
    stopsSource: 'exif',
    clipped: { light: 0, dark: 0 },
    facts: {},
    measures: {},
    ...change,
  };
}
