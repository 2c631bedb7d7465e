import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { projectBench } from '@/cli/projectBench';
import { packProject } from '@/core/codecs/packProject';
import { type BlendMode } from '@/core/layers/blendMode';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { randomSource } from '@/core/raster/random';
import { emptyProject } from '@/core/recipe/emptyProject';
import { nodePlatform } from '@/engine/nodePlatform';
import { nodePool } from '@/engine/nodePool';
import { addFiles } from '@/store/addFiles';
import { setLayer, setPlace } from '@/store/edits/layers';
import { addEdit, newEdit } from '@/store/edits/list';
import { addPart, setRegion } from '@/store/edits/regions';
import { replaceFrames } from '@/store/placeFrames';

/** The same blends of W3C's Compositing as libvips has. */
export const BLENDS: readonly BlendMode[] = [
  ...(['normal', 'multiply', 'screen', 'overlay', 'soft-light', 'hard-light', 'darken', 'lighten'] as const),
  ...(['difference', 'normal'] as const),
];

/** A picture with structure at every size, quickly made. */
function structure(width: number, height: number, seed: number): EncodedImage {
  const image = emptyImage(width, height, 255);
  const random = randomSource(seed);
  const cells = Array.from({ length: 64 * 64 * 3 }, () => 40 + 170 * random());
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 3) {
      const cell = (((y * 48) / height) | 0) * 64 + (((x * 60) / width) | 0);
      const grain = ((x * 7919 + y * 104729 + seed) % 23) - 11;
      for (let c = 0; c < 3; c++) image.data[o + c] = cells[cell * 3 + c] + grain;
    }
  return image;
}

/** A project of so many pictures laid over each other whole, each with two edits and a region of three parts. */
export async function layeredProject(
  folder: string,
  count: number,
  width: number,
  height: number,
): Promise<string> {
  const platform = nodePlatform();
  const pool = nodePool(new URL('./node.worker.mjs', import.meta.url));
  // a new project begins with half the noise taken out, which the other side is not asked for
  const bench = projectBench(pool, {
    ...emptyProject('layers', 'Layers', '2026-11-29T12:00:00.000Z'),
    edits: [],
  });
  const originals = new Map<string, Uint8Array>();
  const random = randomSource(5);
  for (let k = 0; k < count; k++) {
    const image = structure(width, height, k);
    const bytes = await platform.encodeJpeg(image.data as Uint8Array, width, height, 92, 'baseline');
    writeFileSync(join(folder, `${k}.jpg`), bytes);
    const before = bench.store.getState().history.project.frames;
    await addFiles(bench, [{ name: `${k}.jpg`, read: () => Promise.resolve(bytes) }]);
    const [frame] = bench.store.getState().history.project.frames.slice(before.length);
    originals.set(frame.hash, bytes);
    if (k === 0) continue;
    await replaceFrames(bench, [frame.id], { kind: 'plates' });
    const layer = bench.store.getState().history.project.layers[k];
    const owner = { kind: 'layer', layer: layer.id } as const;
    const at = { kind: 'layer', id: layer.id } as const;
    const { edit } = bench.actions;
    const long = Math.max(width, height);
    edit('Place', setPlace(layer.id, { x: width / 2 / long, y: height / 2 / long, size: 1, turn: 0 }));
    edit('Blend', setLayer(layer.id, { blend: BLENDS[k % BLENDS.length], opacity: 0.7 }));
    edit('Exposure', addEdit(at, newEdit(`e${k}`, 'exposure', { stops: 0.4 * (random() - 0.5) })));
    edit('Saturation', addEdit(at, newEdit(`s${k}`, 'saturation', { factor: 0.9 + 0.2 * random() })));
    const [cx, cy] = [0.2 + 0.6 * random(), 0.1 + 0.4 * random()];
    edit(
      'Ellipse',
      addPart(owner, 'add', {
        kind: 'ellipse',
        settings: { x: cx, y: cy, across: 0.4, down: 0.3, turn: 20, soft: 0.5 },
      }),
    );
    edit(
      'Gradient',
      addPart(owner, 'add', { kind: 'gradient', settings: { x0: 0, y0: 0, x1: random(), y1: 0.6 } }),
    );
    edit('Tone', addPart(owner, 'remove', { kind: 'tone', settings: { from: -9, to: -3, soft: 1 } }));
    edit('Soft', setRegion(owner, { feather: 0.004 }));
  }
  const file = join(folder, 'layers.marsh');
  const { project } = bench.store.getState().history;
  writeFileSync(file, packProject({ project, originals }));
  await bench.actions.close();
  pool.close();
  return file;
}
