import { type PictureKind } from '@/core/codecs/write/encodePicture';
import { type Metadata } from '@/core/codecs/write/exifBlock';
import { Problem } from '@/core/proof/problem';
import { type White } from '@/core/raster/encodedImage';
import { type Project, referenceOf } from '@/core/recipe/project';
import { type ViewScene } from '@/core/view/viewScene';
import { renderFinished } from '@/engine/renderFinished';
import { type Bench } from './bench';
import { buildScene } from './buildScene';
import { cropInForce } from './cropInForce';
import { evened } from './preparedFrames';

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

/** A file name made of a title: letters and digits, joined by hyphens. */
export function fileStem(title: string): string {
  const stem = title
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase();
  return stem.slice(0, 60) || 'picture';
}

function metadataOf(project: Project, disclosed: boolean): Metadata {
  return { facts: referenceOf(project)?.facts, title: project.title, disclosed };
}

/** Renders the finished picture at full size and encodes it. Undefined when it was cancelled or failed. */
export function deliver(bench: Bench, delivery: Delivery): Promise<OutFile | undefined> {
  const { pool, store, actions } = bench;
  return actions.during('Delivering the picture', async (signal, progress) => {
    const { history, decoded, merged, prepared } = store.getState();
    const { project } = history;
    const scene = buildScene(project, decoded, merged?.scene, { prepared: evened(project, prepared) });
    const crop = cropInForce(project);
    if (!scene || !crop || !merged)
      throw new Problem('There is no merged picture to deliver yet. Wait for the merge, or start it again.');
    const form = FORMS[delivery.kind];
    const metadata = metadataOf(project, delivery.disclosed);
    const stem = `${fileStem(project.title)}${delivery.kind === 'radiance' ? '-radiance' : ''}`;
    const name = `${stem}.${form.ending}`;
    const { radiance } = merged;
    if (delivery.kind === 'radiance' && !radiance)
      throw new Problem('There is no radiance map. Choose the radiance merge under Merge first.');
    const image =
      delivery.kind === 'radiance' && radiance
        ? radiance
        : await renderFinished(pool, scene, crop, form.white, 0, {
            signal,
            onProgress: (d) => progress(0.7 * d),
          });
    const bytes =
      delivery.kind === 'layers'
        ? await layered(bench, scene, project, image, crop, signal)
        : await pool.run((tasks) => tasks.encode(image, form.encoder, metadata, delivery.quality), {
            signal,
          });
    const how = delivery.kind === 'jpeg' ? `quality ${delivery.quality}` : form.depth;
    actions.note(`Delivered ${name}, ${image.width} × ${image.height}, ${how}`);
    return { name, type: form.type, bytes };
  });
}

async function layered(
  { pool }: Bench,
  scene: ViewScene,
  project: Project,
  image: Awaited<ReturnType<typeof renderFinished>>,
  crop: { readonly x: number; readonly y: number },
  signal: AbortSignal,
): Promise<Uint8Array> {
  const area = { x: Math.ceil(crop.x), y: Math.ceil(crop.y), width: image.width, height: image.height };
  const layers = await Promise.all(
    project.layers
      .filter((l) => l.visible)
      .map(async ({ id, name, opacity, blend, visible }) => ({
        ...{ name, opacity, blend, visible },
        data: await pool.run((tasks) => tasks.layerPicture(scene, id, area), { signal }),
      })),
  );
  return pool.run((tasks) => tasks.openRaster(layers, image), { signal });
}

/** Packs recipe, originals and a preview into one file: from the browser's store, or from what the page itself still has. */
export function exportProject({ pool, store, actions, originals }: Bench): Promise<OutFile | undefined> {
  return actions.during('Packing the project', async (signal, progress) => {
    const { project } = store.getState().history;
    const packed = new Map<string, Uint8Array>();
    for (const frame of project.frames) {
      const bytes = await originals.load(frame.hash);
      if (!bytes)
        throw new Problem(
          `The original of “${frame.file}” is gone from this browser. Drop the file here again, then export.`,
        );
      packed.set(frame.hash, bytes);
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
