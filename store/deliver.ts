import { type PictureKind } from '@/core/codecs/write/encodePicture';
import { type Metadata } from '@/core/codecs/write/exifBlock';
import { Problem } from '@/core/proof/problem';
import { type Rectangle } from '@/core/raster/raster';
import { type PictureScene } from '@/core/view/viewScene';
import { type EncodedImage, type White } from '@/core/raster/encodedImage';
import { baseScope, referenceOf } from '@/core/recipe/setFrames';
import { type Project } from '@/core/recipe/project';
import { type MergeOptions } from '@/engine/mergeOptions';
import { renderPicture } from '@/engine/renderPicture';
import { activeScope } from './activeSet';
import { originalOf } from './keeping/originalOf';
import { type Bench, type BenchState } from './benchState';
import { buildPicture, drawnGraph, pictureScene } from './buildScene';
import { cropInForce } from './cropInForce';
import { fileStem } from './fileStem';
import { mergedNow } from './madePixels';
import { upToDate } from './stages/finishStage';
import { whenState } from './whenState';

/** How a finished picture leaves. */
export type DeliveryKind = 'png' | 'tiff' | 'float' | 'jpeg' | 'exr' | 'layers' | 'radiance';

export interface Delivery {
  readonly kind: DeliveryKind;
  /** of a JPEG, 1…100 */
  readonly quality: number;
  /** the file says that it is a composite */
  readonly disclosed: boolean;
}

/** What each kind is encoded as. */
interface Form {
  readonly ending: string;
  readonly type: string;
  readonly encoder: PictureKind;
  readonly white: White;
  readonly depth: string;
}

const FORMS: Readonly<Record<DeliveryKind, Form>> = {
  png: { ending: 'png', type: 'image/png', encoder: 'png', white: 65535, depth: '16 bit' },
  tiff: { ending: 'tif', type: 'image/tiff', encoder: 'tiff', white: 65535, depth: '16 bit' },
  float: { ending: 'tif', type: 'image/tiff', encoder: 'tiff', white: 1, depth: 'floats' },
  jpeg: { ending: 'jpg', type: 'image/jpeg', encoder: 'jpeg', white: 255, depth: '8 bit' },
  exr: { ending: 'exr', type: 'image/x-exr', encoder: 'exr', white: 1, depth: 'half floats' },
  layers: { ending: 'ora', type: 'image/openraster', encoder: 'png', white: 255, depth: 'layered' },
  radiance: { ending: 'exr', type: 'image/x-exr', encoder: 'exr', white: 1, depth: 'radiance map' },
};

/** A file to hand to the user. */
export interface OutFile {
  readonly name: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

function referenceOfBase(project: Project) {
  const scope = baseScope(project);
  return scope && referenceOf(scope);
}

function metadataOf(project: Project, disclosed: boolean): Metadata {
  return { facts: referenceOfBase(project)?.facts, title: project.title, disclosed };
}

interface WholePicture {
  readonly picture: PictureScene;
  readonly crop: Rectangle;
}

/** The picture as the recipe now asks for it, and its crop; undefined while it is not all made. */
function madePicture(state: BenchState): WholePicture | undefined {
  const { project } = state.history;
  const built = upToDate(state, project);
  const [picture, crop] = [built && pictureScene(built), cropInForce(project)];
  return picture && crop && { picture, crop };
}

/** The same. @throws Problem while it is not all made */
function wholePicture(state: BenchState): WholePicture {
  const whole = madePicture(state);
  if (!whole)
    throw new Problem('The picture is not merged as it stands. Wait for the merge, or start it again.');
  return whole;
}

/** The finished picture, cropped, at full size or halved so many times. */
export function finishedPicture(
  { pool, store }: Pick<Bench, 'pool' | 'store'>,
  white: White,
  level: number,
  options?: MergeOptions,
): Promise<EncodedImage> {
  const { picture, crop } = wholePicture(store.getState());
  return renderPicture(pool, picture, picture.finished, crop, white, level, options);
}

/** Size of the finished picture. @throws Problem while it is not all made */
export function finishedSize({ store }: Pick<Bench, 'store'>): Rectangle {
  return wholePicture(store.getState()).crop;
}

/** Renders the finished picture at full size and encodes it. Undefined when it was cancelled or failed. */
export function deliver(bench: Bench, delivery: Delivery): Promise<OutFile | undefined> {
  const { pool, store, actions } = bench;
  return actions.during('Delivering the picture', async (signal, progress) => {
    // what is still being made is waited for
    await whenState(store, (now) => now.paused || madePicture(now) !== undefined, signal);
    const state = store.getState();
    const { project } = state.history;
    const { picture, crop } = wholePicture(state);
    const form = FORMS[delivery.kind];
    const metadata = metadataOf(project, delivery.disclosed);
    const stem = `${fileStem(project.title)}${delivery.kind === 'radiance' ? '-radiance' : ''}`;
    const name = `${stem}.${form.ending}`;
    const radiance = radianceMap(state);
    if (delivery.kind === 'radiance' && !radiance)
      throw new Problem('There is no radiance map. Choose the radiance merge under Merge first.');
    const image =
      delivery.kind === 'radiance' && radiance
        ? radiance
        : await renderPicture(pool, picture, picture.finished, crop, form.white, 0, {
            signal,
            onProgress: (d) => progress(0.7 * d),
          });
    const bytes =
      delivery.kind === 'layers'
        ? await layered(bench, project, image, crop, signal)
        : await pool.run((tasks) => tasks.encode(image, form.encoder, metadata, delivery.quality), {
            signal,
          });
    const how = delivery.kind === 'jpeg' ? `quality ${delivery.quality}` : form.depth;
    actions.note(`Delivered ${name}, ${image.width} × ${image.height}, ${how}`);
    return { name, type: form.type, bytes };
  });
}

/** The radiance map of the set that is worked on, where it is one and as the recipe asks for it. */
function radianceMap(state: BenchState): EncodedImage | undefined {
  const scope = activeScope(state);
  const merged = scope && mergedNow(state, scope);
  return merged?.toneBase ? merged.scene.levels[0] : undefined;
}

/** A layered file: the outermost layers, each by itself with everything that is done to the whole. */
async function layered(
  { pool, store }: Bench,
  project: Project,
  image: EncodedImage,
  crop: { readonly x: number; readonly y: number },
  signal: AbortSignal,
): Promise<Uint8Array> {
  const area = { x: Math.ceil(crop.x), y: Math.ceil(crop.y), width: image.width, height: image.height };
  const layers = await Promise.all(
    project.layers
      .filter((l) => l.shown)
      .map(async ({ id, name, opacity, blend, shown }) => {
        const built = buildPicture(store.getState(), project, { alone: id });
        const node = built?.compiled.finished;
        const drawn = built && node !== undefined ? drawnGraph(built, [node]) : undefined;
        if (!drawn || node === undefined) throw new Problem(`Layer “${name}” cannot be drawn by itself yet.`);
        const data = await pool.run((tasks) => tasks.layerPicture(drawn, node, area), { signal });
        return { name, opacity, blend, visible: shown, data };
      }),
  );
  return pool.run((tasks) => tasks.openRaster(layers, image), { signal });
}

/** Packs recipe, originals and a preview into one file: from the browser's store, or from what the page itself still has. */
export function exportProject({ pool, store, actions, originals }: Bench): Promise<OutFile | undefined> {
  return actions.during('Packing the project', async (signal, progress) => {
    const { project } = store.getState().history;
    const packed = new Map<string, Uint8Array>();
    for (const frame of project.frames) {
      packed.set(frame.hash, await originalOf(originals, frame));
      progress((0.5 * packed.size) / project.frames.length);
    }
    const preview = await previewJpeg({ pool, store });
    const name = `${fileStem(project.title)}.marsh.zip`;
    const parts = { project, originals: packed, preview };
    const bytes = await pool.run((tasks) => tasks.packProject(parts, new Date(project.changed)), { signal });
    actions.note(`Exported ${name}`);
    return { name, type: 'application/zip', bytes };
  });
}

/** The small finished picture as JPEG; undefined while there is none. */
export async function previewJpeg({
  pool,
  store,
}: Pick<Bench, 'pool' | 'store'>): Promise<Uint8Array | undefined> {
  const { finished } = store.getState();
  return finished && pool.run((tasks) => tasks.encode(finished.image, 'jpeg', undefined, 80));
}
