/** @jest-environment jsdom */
import { beforeAll, describe, expect, test } from '@jest/globals';
import { type View, type ViewScene } from '@/core/view/viewScene';
import { drawTable } from './drawTable';
import { type RenderArea, type Sheet, sheetLoader } from './sheetLoader';
import { beside, fitAll, panBy, showPlace, toPicture, toTable, visibleArea, zoomAbout } from './viewport';

const picture = { width: 3000, height: 2000 };
const table = { width: 760, height: 550 };

describe('viewport', () => {
  test('of a picture beside another: the same part, as large, and back again', () => {
    const own = { zoom: 0.5, x: 1500, y: 500 };
    const other = { width: 1500, height: 1000 };
    expect(beside(own, picture, other)).toEqual({ zoom: 1, x: 750, y: 250 });
    expect(beside(beside(own, picture, other), other, picture)).toEqual(own);
    // one of another form is no larger
    expect(beside(own, picture, { width: 1000, height: 2000 })).toEqual({ zoom: 0.5, x: 500, y: 500 });
  });

  test('the whole picture fits with a little of the table around it, and is never enlarged', () => {
    const v = fitAll(picture, table);
    const [left, top] = toTable(v, table, 0, 0);
    const [right, bottom] = toTable(v, table, 3000, 2000);
    expect(left).toBeGreaterThan(10);
    expect(right).toBeLessThan(750);
    expect((left + right) / 2).toBeCloseTo(380, 6);
    expect((top + bottom) / 2).toBeCloseTo(275, 6);
    expect(fitAll({ width: 30, height: 20 }, table).zoom).toBe(1);
  });

  test('zooming keeps what lies under the pointer, within bounds', () => {
    const v = { zoom: 0.5, x: 1000, y: 800 };
    const under = toPicture(v, table, 200, 150);
    const zoomed = zoomAbout(v, picture, table, 200, 150, 1.7);
    toPicture(zoomed, table, 200, 150).forEach((p, i) => expect(p).toBeCloseTo(under[i], 6));
    expect(zoomAbout(v, picture, table, 0, 0, 1e9).zoom).toBe(16);
    expect(zoomAbout(v, picture, table, 0, 0, 1e-9).zoom).toBeCloseTo(fitAll(picture, table).zoom / 2, 9);
  });

  test('panning moves by screen pixels and cannot lose the picture', () => {
    expect(panBy({ zoom: 2, x: 100, y: 100 }, picture, 40, -20)).toEqual({ zoom: 2, x: 80, y: 110 });
    expect(panBy({ zoom: 1, x: 10, y: 10 }, picture, 1e6, 1e6)).toMatchObject({ x: 0, y: 0 });
  });

  test('a place is shown whole, at most 1:1, in the middle', () => {
    expect(showPlace({ x: 100, y: 200, width: 20, height: 10 }, table)).toEqual({ zoom: 1, x: 110, y: 205 });
    expect(showPlace({ x: 0, y: 0, width: 3000, height: 2000 }, table).zoom).toBeLessThan(0.2);
  });

  test('the level has at least as many pixels as the screen, and the area is what is in sight', () => {
    expect(visibleArea({ zoom: 0.25, x: 1500, y: 1000 }, picture, table, 1)).toEqual({
      level: 2,
      area: { x: 0, y: 0, width: 750, height: 500 },
    });
    expect(visibleArea({ zoom: 0.25, x: 1500, y: 1000 }, picture, table, 2)?.level).toBe(1);
    expect(visibleArea({ zoom: 1, x: 1500, y: 1000 }, picture, table, 1)).toEqual({
      level: 0,
      area: { x: 1120, y: 725, width: 760, height: 550 },
    });
    expect(visibleArea({ zoom: 1, x: -5000, y: 0 }, picture, table, 1)).toBeUndefined();
  });
});

/** a machine on which nothing takes time: what is slow to draw is answered coarser */
const STILL = (): number => 0;

describe('sheet loader', () => {
  const put: { x: number; y: number }[] = [];
  beforeAll(() => {
    // jsdom draws nothing: take note of what would be drawn
    Object.assign(HTMLCanvasElement.prototype, {
      getContext: () => ({ putImageData: (_: unknown, x: number, y: number) => put.push({ x, y }) }),
    });
    Object.assign(globalThis, {
      ImageData: class {
        constructor(
          readonly data: Uint8ClampedArray,
          readonly width: number,
        ) {}
      },
    });
  });
  const scene = (): ViewScene => ({
    width: 1000,
    height: 800,
    set: { width: 1000, height: 800, frames: [] },
  });
  const view: View = { kind: 'result' };
  const area = { x: 0, y: 0, width: 500, height: 400 };
  const settle = () => new Promise((r) => setTimeout(r, 20));
  const recorder = () => {
    const asked: { level: number; width: number; x: number }[] = [];
    const render: RenderArea = (_scene, _view, level, at) => {
      asked.push({ level, width: at.width, x: at.x });
      return Promise.resolve(new Uint8ClampedArray(at.width * at.height * 4));
    };
    return { asked, render };
  };

  test('renders what is wanted, then an overview, and nothing more', async () => {
    const { asked, render } = recorder();
    let sheets = 0;
    const loader = sheetLoader(render, undefined, STILL);
    loader.follow(() => sheets++);
    loader.want({ scene: scene(), view, level: 0, area });
    await settle();
    expect(asked.map((a) => a.level)).toEqual([0, 1]);
    expect(sheets).toBe(2);
    expect(loader.sheets()).toHaveLength(2);
  });

  test('what cannot be rendered is told once, stays as it was drawn, and is tried again with the next wish', async () => {
    const { asked, render } = recorder();
    let broken = false;
    const told: unknown[] = [];
    const loader = sheetLoader(
      (...wanted) => (broken ? Promise.reject(new Error('no memory')) : render(...wanted)),
      (thrown) => told.push(thrown),
    );
    const [from, changed] = [scene(), scene()];
    loader.want({ scene: from, view, level: 0, area });
    await settle();
    broken = true;
    loader.want({ scene: changed, view, level: 0, area });
    await settle();
    expect(told).toEqual([new Error('no memory')]);
    broken = false;
    asked.length = 0;
    loader.want({ scene: changed, view, level: 0, area });
    await settle();
    expect(asked[0]).toMatchObject({ level: 0 });
    expect(loader.sheets().at(-1)).toMatchObject({ scene: changed });
  });

  test('newer wishes replace those that wait', async () => {
    const { asked, render } = recorder();
    const loader = sheetLoader(render, undefined, STILL);
    const from = scene();
    for (let x = 0; x <= 400; x += 100) loader.want({ scene: from, view, level: 0, area: { ...area, x } });
    await settle();
    expect(asked.filter((a) => a.level === 0).map((a) => a.x)).toEqual([0, 400]);
  });

  test('a small change is patched in place', async () => {
    const { asked, render } = recorder();
    const loader = sheetLoader(render, undefined, STILL);
    const parts: unknown[] = [];
    loader.follow((part) => parts.push(part));
    loader.want({ scene: scene(), view, level: 0, area });
    await settle();
    asked.length = 0;
    parts.length = 0;
    loader.want({ scene: scene(), view, level: 0, area, dirty: { x: 100, y: 100, width: 20, height: 20 } });
    await settle();
    // only that part is laid on the table anew
    expect(parts[0]).toEqual({ x: 99, y: 99, width: 22, height: 22 });
    expect(asked[0]).toEqual({ level: 0, width: 22, x: 99 });
    expect(put[put.length - 2] ?? put[put.length - 1]).toBeDefined();
  });

  const box = (x: number) => ({ x, y: 100, width: 20, height: 20 });

  test('small changes while one is under way are patched together', async () => {
    const { asked, render } = recorder();
    const loader = sheetLoader(render, undefined, STILL);
    loader.want({ scene: scene(), view, level: 0, area });
    await settle();
    asked.length = 0;
    for (const x of [100, 150, 200]) loader.want({ scene: scene(), view, level: 0, area, dirty: box(x) });
    await settle();
    expect(asked.filter((a) => a.level === 0)).toEqual([
      { level: 0, width: 22, x: 99 },
      { level: 0, width: 72, x: 149 },
    ]);
  });

  test('a change of everything that waits is not lost to a small one behind it', async () => {
    const { asked, render } = recorder();
    const loader = sheetLoader(render, undefined, STILL);
    loader.want({ scene: scene(), view, level: 0, area });
    await settle();
    asked.length = 0;
    loader.want({ scene: scene(), view, level: 0, area, dirty: box(100) });
    // comes while the patch is under way, and is followed by another small one
    loader.want({ scene: scene(), view, level: 0, area });
    loader.want({ scene: scene(), view, level: 0, area, dirty: box(300) });
    await settle();
    expect(asked.filter((a) => a.level === 0).map((a) => a.width)).toEqual([22, 500]);
  });

  test('asking again for the same scene asks for nothing', async () => {
    const { asked, render } = recorder();
    const loader = sheetLoader(render, undefined, STILL);
    const wanted = { scene: scene(), view, level: 0, area };
    loader.want(wanted);
    await settle();
    asked.length = 0;
    loader.want({ ...wanted });
    await settle();
    expect(asked).toEqual([]);
  });

  const large = { x: 0, y: 0, width: 1000, height: 800 };
  const rest = () => new Promise((r) => setTimeout(r, 320));

  test('a large change is answered by a coarser sheet while the hand moves, and sharpened when it rests', async () => {
    const { asked, render } = recorder();
    let now = 0;
    const loader = sheetLoader(render, undefined, () => now);
    loader.want({ scene: scene(), view, level: 0, area: large });
    await settle();
    // what comes first comes sharp
    expect(asked.map(({ level, width }) => [level, width])).toEqual([
      [0, 1000],
      [1, 500],
    ]);
    for (let k = 0; k < 4; k++) {
      asked.length = 0;
      loader.want({ scene: scene(), view, level: 0, area: large });
      await settle();
      expect(asked[0]).toEqual({ level: 1, width: 500, x: 0 });
    }
    now = 1000;
    await rest();
    expect(asked.map((a) => a.level)).toEqual([1, 0, 1]);
    expect(loader.sheets().at(-1)).toMatchObject({ level: 0, area: large });
  });

  test('a coarser sheet is made no larger than the hand can wait for', async () => {
    const { asked, render } = recorder();
    const loader = sheetLoader(render, undefined, STILL);
    const huge = (): ViewScene => ({ ...scene(), width: 4000, height: 3000 });
    const area4 = { x: 400, y: 200, width: 3200, height: 2400 };
    loader.want({ scene: huge(), view, level: 0, area: area4 });
    await settle();
    asked.length = 0;
    loader.want({ scene: huge(), view, level: 0, area: area4 });
    await settle();
    // 7.7 megapixels, an eighth of each side
    expect(asked[0]).toEqual({ level: 3, width: 400, x: 50 });
  });

  test('a picture that is slow to draw is answered coarser, however small it is, until it is quick again', async () => {
    const { render } = recorder();
    let [now, takes] = [0, 80];
    const levels: number[] = [];
    const loader = sheetLoader(
      (...args) => {
        levels.push(args[2]);
        now += takes;
        return render(...args);
      },
      undefined,
      () => now,
    );
    const change = async (): Promise<number> => {
      levels.length = 0;
      loader.want({ scene: scene(), view, level: 0, area });
      await settle();
      return levels[0];
    };
    // the first takes 80 ms at full size, and the overview as much
    expect(await change()).toBe(0);
    expect(await change()).toBe(1);
    takes = 0;
    expect(await change()).toBe(1);
    expect(await change()).toBe(0);
  });

  test('another view of the same scene is sharpened at once', async () => {
    const { asked, render } = recorder();
    const loader = sheetLoader(render, undefined, STILL);
    const from = scene();
    loader.want({ scene: from, view, level: 0, area: large });
    await settle();
    asked.length = 0;
    loader.want({ scene: from, view: { kind: 'origin' }, level: 0, area: large });
    await settle();
    expect(asked.map((a) => a.level)).toEqual([1, 0, 1]);
  });

  test('a failed rendering is asked for again by the next wish', async () => {
    let fail = true;
    const loader = sheetLoader((_s, _v, _l, at) =>
      fail
        ? Promise.reject(new Error('gone'))
        : Promise.resolve(new Uint8ClampedArray(at.width * at.height * 4)),
    );
    loader.want({ scene: scene(), view, level: 1, area });
    await settle();
    expect(loader.sheets()).toHaveLength(0);
    fail = false;
    loader.want({ scene: scene(), view, level: 1, area });
    await settle();
    expect(loader.sheets().length).toBeGreaterThan(0);
  });
});

describe('a part of the picture drawn anew', () => {
  const table = { width: 861, height: 567 };
  const picture = { width: 1500, height: 1000 };
  /** What a canvas is told, by the name of its method. */
  function recorder() {
    const told: { readonly name: string; readonly args: readonly number[] }[] = [];
    const context = new Proxy(
      {},
      {
        get:
          (_, name) =>
          (...args: number[]) =>
            void told.push({ name: String(name), args }),
        set: () => true,
      },
    ) as CanvasRenderingContext2D;
    return { told, context };
  }
  const sheet = (level: number): Sheet => ({
    canvas: document.createElement('canvas'),
    level,
    area: { x: 0, y: 0, width: picture.width >> level, height: picture.height >> level },
    scene: { ...picture, set: { ...picture, frames: [] } },
    view: { kind: 'result' },
  });

  test.each([
    [{ zoom: 0.573, x: 750, y: 500 }, [1, 0]],
    [{ zoom: 0.573, x: 750, y: 500 }, [0]],
    [{ zoom: 4.2, x: 300.25, y: 199.5 }, [0]],
  ])(
    'is clipped to all screen pixels that it has a share in, on whole ones: %j, levels %j',
    (viewport, levels) => {
      const part = { x: 240, y: 170, width: 86, height: 82 };
      const { told, context } = recorder();
      drawTable(context, table, viewport, picture, levels.map(sheet), undefined, undefined, part);
      const first = told.findIndex(({ name }) => name === 'clip');
      expect(told.slice(0, first).map(({ name }) => name)).toEqual(['save', 'beginPath', 'rect']);
      const [x, y, width, height] = told[first - 1].args;
      // a pixel of the coarsest sheet is mixed into its neighbours
      const around = 2 ** Math.max(...levels);
      const [left, top] = toTable(viewport, table, part.x - around, part.y - around);
      const [right, bottom] = toTable(
        viewport,
        table,
        part.x + part.width + around,
        part.y + part.height + around,
      );
      for (const edge of [x, y, width, height]) expect(edge).toBe(Math.round(edge));
      expect([x <= left, y <= top, x + width >= right, y + height >= bottom]).toEqual([
        true,
        true,
        true,
        true,
      ]);
      // and hardly more than that
      expect([left - x, top - y, x + width - right, y + height - bottom].every((v) => v <= 2)).toBe(true);
      expect(told.filter(({ name }) => name === 'drawImage')).toHaveLength(levels.length);
    },
  );

  test('without a part the whole is drawn', () => {
    const { told, context } = recorder();
    drawTable(context, table, { zoom: 0.573, x: 750, y: 500 }, picture, [sheet(0)]);
    expect(told[1]).toEqual({ name: 'fillRect', args: [0, 0, table.width, table.height] });
  });
});
