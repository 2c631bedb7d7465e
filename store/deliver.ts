import { packProject } from '@/core/codecs/projectFile';
import { cropOf } from '@/core/recipe/cropOf';
import { Problem } from '@/core/proof/problem';
import { renderFinished } from '@/engine/renderFinished';
import { type Bench } from './bench';
import { buildScene } from './buildScene';

/** How a finished picture leaves. */
export type Delivery = { readonly kind: 'png' } | { readonly kind: 'jpeg'; readonly quality: number };

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

/** Renders the finished picture at full size and encodes it. Undefined when it was cancelled or failed. */
export function deliver(bench: Bench, delivery: Delivery): Promise<OutFile | undefined> {
  const { pool, store, actions } = bench;
  return actions.during('Delivering the picture', async (signal, progress) => {
    const { history, decoded, merged } = store.getState();
    const scene = buildScene(history.project, decoded, merged?.scene);
    const crop = cropOf(history.project);
    if (!scene || !crop || !merged)
      throw new Problem('There is no merged picture to deliver yet. Wait for the merge, or start it again.');
    const white = delivery.kind === 'png' ? 65535 : 255;
    const image = await renderFinished(pool, scene, crop, white, 0, {
      signal,
      onProgress: (d) => progress(0.7 * d),
    });
    const bytes = await pool.run(
      (tasks) => (delivery.kind === 'png' ? tasks.png(image) : tasks.jpeg(image, delivery.quality)),
      { signal },
    );
    const ending = delivery.kind === 'png' ? 'png' : 'jpg';
    const name = `${fileStem(history.project.title)}.${ending}`;
    actions.note(
      `Delivered ${name}, ${image.width} × ${image.height}, ${delivery.kind === 'png' ? '16 bit' : `quality ${delivery.quality}`}`,
    );
    return { name, type: `image/${delivery.kind}`, bytes };
  });
}

/** Packs recipe, originals and a preview into one file. */
export function exportProject(
  bench: Bench,
  original: (hash: string) => Promise<Uint8Array | undefined>,
): Promise<OutFile | undefined> {
  const { store, actions } = bench;
  return actions.during('Packing the project', async () => {
    const { project } = store.getState().history;
    const originals = new Map<string, Uint8Array>();
    for (const frame of project.frames) {
      const bytes = await original(frame.hash);
      if (!bytes)
        throw new Problem(
          `The original of “${frame.file}” is gone from this browser. Drop the file here again, then export.`,
        );
      originals.set(frame.hash, bytes);
    }
    const preview = await previewJpeg(bench);
    const name = `${fileStem(project.title)}.marsh.zip`;
    actions.note(`Exported ${name}`);
    return { name, type: 'application/zip', bytes: packProject({ project, originals, preview }) };
  });
}

/** The small finished picture as JPEG; undefined while there is none. */
export async function previewJpeg({ pool, store }: Bench): Promise<Uint8Array | undefined> {
  const { finished } = store.getState();
  return finished && pool.run((tasks) => tasks.jpeg(finished.image, 80));
}
