import { type Rectangle } from '@/core/raster/raster';
import { type View, type ViewScene } from '@/core/view/viewScene';

/** Rendered pixels of a part of a view, ready to be drawn. */
export interface Sheet {
  readonly canvas: HTMLCanvasElement;
  readonly level: number;
  /** pixels of the level */
  readonly area: Rectangle;
  readonly scene: ViewScene;
  readonly view: View;
}

/** What should be on the table. */
export interface Wanted {
  readonly scene: ViewScene;
  readonly view: View;
  readonly level: number;
  readonly area: Rectangle;
  /** only this part of the picture (pixel edges) differs from the last scene */
  readonly dirty?: Rectangle;
}

export type RenderArea = (
  scene: ViewScene,
  view: View,
  level: number,
  area: Rectangle,
) => Promise<Uint8ClampedArray<ArrayBuffer>>;

/** Loads what is wanted, the latest only. */
export interface SheetLoader {
  /** what is to be done with each new sheet, or where only a part of one was drawn anew, with that part, pixel edges of the picture; replaces what was said before */
  readonly follow: (onSheet: (part?: Rectangle) => void) => void;
  readonly want: (wanted: Wanted | undefined) => void;
  /** coarse and fine sheets of the view, to be drawn in order */
  readonly sheets: () => readonly Sheet[];
}

const OVERVIEW_EDGE = 700;
/** pixels that are rendered while the hand still moves; with more, a coarser sheet answers first */
const AT_ONCE = 450_000;
/** milliseconds that an answer to the hand may take by what the last ones took; a heavy picture is answered coarser */
const ANSWER_MS = 22;
/** pixels from which what a sheet takes is a matter of them, not of asking for it */
const OVERHEAD = 20_000;
/** halvings at most by which a heavy picture is answered coarser than its size asks for */
const HEAVY = 1;
/** milliseconds without a new wish after which what was coarse is sharpened */
const REST_MS = 220;

const sameView = (a: View, b: View): boolean => JSON.stringify(a) === JSON.stringify(b);

const same = (a: Rectangle, b: Rectangle): boolean =>
  a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

function union(a: Rectangle | undefined, b: Rectangle): Rectangle {
  if (!a) return b;
  const x = Math.min(a.x, b.x);
  const y = Math.min(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}

/** The same part of a scene on a coarser level; undefined where nothing of it is left. */
function coarser({ scene, level, area }: Wanted, by: number): { level: number; area: Rectangle } | undefined {
  const [width, height] = [scene.width >> (level + by), scene.height >> (level + by)];
  const [x, y] = [area.x >> by, area.y >> by];
  const part = {
    x,
    y,
    width: Math.min(width, (area.x + area.width) >> by) - x,
    height: Math.min(height, (area.y + area.height) >> by) - y,
  };
  return part.width > 0 && part.height > 0 ? { level: level + by, area: part } : undefined;
}

/** Halvings after which a sheet is small enough to follow the hand; none or fewer where it is as it is. @param pace milliseconds a pixel */
function halvingsFor(pixels: number, pace: number): number {
  const by = (most: number): number => Math.ceil(Math.log2(pixels / most) / 2);
  const bySize = Math.max(0, by(AT_ONCE));
  return pace > 0 ? Math.max(bySize, Math.min(bySize + HEAVY, by(ANSWER_MS / pace))) : bySize;
}

/**
 * Keeps the sheets of one view up to date: one request at a time, newer wishes replace waiting ones, a small change is patched into
 * the sheet in place, and a large one is answered by a coarser sheet, which is sharpened when the hand rests.
 * @param onFailure what could not be rendered: what is drawn stays, and the next wish tries again
 * @param clock milliseconds, by which the pace of drawing and the rest of the hand are told
 */
export function sheetLoader(
  render: RenderArea,
  onFailure: (thrown: unknown) => void = () => undefined,
  clock: () => number = () => performance.now(),
): SheetLoader {
  let onSheet: (part?: Rectangle) => void = () => undefined;
  let wanted: Wanted | undefined;
  let fine: Sheet | undefined;
  let overview: Sheet | undefined;
  let busy = false;
  let dirty: Rectangle | undefined;
  /** the scene that the fine sheet shows, or will when what is under way is done */
  let base: ViewScene | undefined;
  /** when the last wish for other pixels came, and what wakes the loader when the hand has rested since */
  let wishedAt = -Infinity;
  let rest: ReturnType<typeof setTimeout> | undefined;
  /** milliseconds that a pixel of the last large sheet took */
  let pace = 0;
  const canvases: Partial<Record<'coarse' | 'fine' | 'overview', HTMLCanvasElement>> = {};

  const paint = async (
    onto: keyof typeof canvases,
    { scene, view }: Wanted,
    level: number,
    area: Rectangle,
  ): Promise<Sheet> => {
    const started = clock();
    const bytes = await render(scene, view, level, area);
    const pixels = area.width * area.height;
    if (pixels >= OVERHEAD) pace = (clock() - started) / pixels;
    const canvas = (canvases[onto] ??= document.createElement('canvas'));
    // setting a size clears and allocates, even when it is the same
    if (canvas.width !== area.width) canvas.width = area.width;
    if (canvas.height !== area.height) canvas.height = area.height;
    canvas.getContext('2d')?.putImageData(new ImageData(bytes, area.width, area.height), 0, 0);
    return { canvas, level, area, scene, view };
  };

  /** Whether the hand still moves; if so, the loader goes on when it rests. */
  const moves = (): boolean => {
    const left = wishedAt + REST_MS - clock();
    if (left <= 0) return false;
    clearTimeout(rest);
    rest = setTimeout(() => void run(), left);
    return true;
  };

  /** @returns what was drawn anew, pixel edges of the picture */
  const patch = async (sheet: Sheet, next: Wanted, box: Rectangle): Promise<Rectangle> => {
    const scale = 2 ** sheet.level;
    const x = Math.max(sheet.area.x, Math.floor(box.x / scale) - 1);
    const y = Math.max(sheet.area.y, Math.floor(box.y / scale) - 1);
    const right = Math.min(sheet.area.x + sheet.area.width, Math.ceil((box.x + box.width) / scale) + 1);
    const bottom = Math.min(sheet.area.y + sheet.area.height, Math.ceil((box.y + box.height) / scale) + 1);
    const [width, height] = [Math.max(0, right - x), Math.max(0, bottom - y)];
    if (width > 0 && height > 0) {
      const area = { x, y, width, height };
      const bytes = await render(next.scene, next.view, sheet.level, area);
      const image = new ImageData(bytes, width, height);
      sheet.canvas.getContext('2d')?.putImageData(image, x - sheet.area.x, y - sheet.area.y);
    }
    fine = { ...sheet, scene: next.scene };
    return { x: x * scale, y: y * scale, width: width * scale, height: height * scale };
  };

  /** One step towards what is wanted: what it drew anew of a sheet, or whether there was anything left to do. */
  const step = async (): Promise<Rectangle | boolean> => {
    const next = wanted;
    if (!next) return false;
    const fits =
      fine && fine.level === next.level && same(fine.area, next.area) && sameView(fine.view, next.view);
    if (fine && fits && fine.scene !== next.scene && dirty) {
      const box = dirty;
      dirty = undefined;
      base = next.scene;
      return patch(fine, next, box);
    }
    if (!fits || fine?.scene !== next.scene) {
      dirty = undefined;
      base = next.scene;
      const changed = fine && (fine.scene !== next.scene || !sameView(fine.view, next.view));
      const halvings = halvingsFor(next.area.width * next.area.height, pace);
      const first = changed && halvings > 0 ? coarser(next, halvings) : undefined;
      if (first) {
        fine = await paint('coarse', next, first.level, first.area);
        return true;
      }
      if (fine && !changed && fine.level > next.level && moves()) return false;
      fine = await paint('fine', next, next.level, next.area);
      return true;
    }
    if (!overview || overview.scene !== next.scene || !sameView(overview.view, next.view)) {
      const edge = Math.max(next.scene.width, next.scene.height);
      const level = Math.max(next.level, Math.ceil(Math.log2(edge / OVERVIEW_EDGE)));
      const area = { x: 0, y: 0, width: next.scene.width >> level, height: next.scene.height >> level };
      if (level === next.level && same(area, next.area)) return false;
      if (moves()) return false;
      overview = await paint('overview', next, level, area);
      return true;
    }
    return false;
  };

  const run = async (): Promise<void> => {
    if (busy) return;
    busy = true;
    try {
      let last: Wanted | undefined;
      do {
        last = wanted;
        for (let drawn = await step(); drawn; drawn = await step())
          onSheet(drawn === true ? undefined : drawn);
        // a wish that came while nothing was found to do is not lost
      } while (wanted !== last);
    } catch (thrown) {
      wanted = undefined;
      onFailure(thrown);
    } finally {
      busy = false;
    }
  };

  return {
    follow: (next) => {
      onSheet = next;
    },
    want: (next) => {
      // what was asked for before keeps what is left of it to be patched
      if (next?.scene !== wanted?.scene) {
        const wholeWaits = !wanted || (wanted.scene !== base && !dirty);
        dirty = next?.dirty && !wholeWaits ? union(dirty, next.dirty) : undefined;
        if (wanted) wishedAt = clock();
      }
      wanted = next;
      void run();
    },
    sheets: () => {
      const view = wanted?.view;
      return [overview, fine].filter(
        (s): s is Sheet => !!s && !!view && (sameView(s.view, view) || s === fine),
      );
    },
  };
}
