'use client';
import { useMemo, useRef, useState } from 'react';
import { straightenOf } from '@/core/recipe/cropOf';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { transform } from '@/core/raster/matrix3';
import { type Rectangle } from '@/core/raster/raster';
import { type Line } from '@/core/finish/straighten';
import { neutralOf } from '@/core/edits/neutral/neutralOf';
import { type Project } from '@/core/recipe/project';
import { type ToolInHand } from '@/store/benchState';
import { activeScope } from '@/store/activeSet';
import { drawnGraph } from '@/store/buildScene';
import { addWatchPoint, setGeometry, setPrintRegion } from '@/store/edits/geometry';
import { type EditOwner, editsAt, setKindOfEdit } from '@/store/edits/list';
import { setHeld } from '@/store/edits/sets';
import { type Tool, type ToolPoint } from '@/ui/table/tool';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { newEditId, ownerKey } from '../edits/editIds';
import { EDITS_TEXT } from '../edits/text';
import { nodeBefore } from '@/store/nodeBefore';
import { useTarget } from '../edits/useTarget';
import { showsFinished } from '../looks';

/** Tools that are dragged from one place to another; the others have hooks of their own. */
type DrawingTool = Extract<
  ToolInHand,
  'held' | 'patch' | 'level' | 'upright' | 'print' | 'watch' | 'subject'
>;

const DRAWING: readonly ToolInHand[] = ['held', 'patch', 'level', 'upright', 'print', 'watch', 'subject'];

const isDrawing = (tool: ToolInHand | undefined): tool is DrawingTool =>
  tool !== undefined && DRAWING.includes(tool);

/** What is being drawn, picture pixels: from where the hand went down to where it is. */
export interface Drawn {
  readonly tool: DrawingTool;
  readonly line: Line;
  /** a first upright that waits for its second */
  readonly first?: Line;
}

/** stops that light falls off by when a subject is drawn before anything is set */
const FALL = 1;
const firstFall = (project: Project, at: EditOwner): { readonly stops?: number } =>
  editsAt(project, at).some((e) => e.kind === 'vignette') ? {} : { stops: FALL };

/** a drag shorter than this is no line, picture pixels */
const SHORTEST = 12;
/** half the side of the patch that is sampled, picture pixels */
const PATCH = 6;

const boxOf = ([x0, y0, x1, y1]: Line): Rectangle => ({
  x: Math.min(x0, x1),
  y: Math.min(y0, y1),
  width: Math.abs(x1 - x0),
  height: Math.abs(y1 - y0),
});

/** The tool in hand as a tool of the table; what it draws becomes one edit when the hand lets go. */
export function useDrawTool(): { tool: Tool | undefined; drawn: Drawn | undefined } {
  const { bench, viewer } = useBenchParts();
  const actions = useActions();
  const target = useTarget();
  const { inHand, hasGrid, finished } = useBench((s) => ({
    inHand: s.tool,
    hasGrid: pictureGrid(s.history.project) !== undefined,
    finished: showsFinished(s.session.station),
  }));
  const [drawn, setDrawn] = useState<Drawn>();
  const current = useRef<Drawn>(undefined);
  const tool = useMemo<Tool | undefined>(() => {
    if (!isDrawing(inHand) || !hasGrid) return undefined;
    const projectNow = (): Project => bench.store.getState().history.project;
    const show = (next: Drawn | undefined): void => {
      current.current = next;
      setDrawn(next);
    };
    const onReference = ([x0, y0, x1, y1]: Line): Line => {
      const straighten = straightenOf(projectNow());
      return [...transform(straighten, x0, y0), ...transform(straighten, x1, y1)];
    };
    const inside = (r: Rectangle): Rectangle => {
      const { width, height } = pictureGrid(projectNow()) ?? { width: 0, height: 0 };
      const x = Math.max(0, r.x);
      const y = Math.max(0, r.y);
      return {
        x,
        y,
        width: Math.min(width, r.x + r.width) - x,
        height: Math.min(height, r.y + r.height) - y,
      };
    };
    const sample = (x: number, y: number): void => {
      const { built } = bench.shown(bench.store.getState());
      const id = `${ownerKey(target)}-neutral`;
      const { compiled } = built ?? {};
      // what the balance finds: the picture that it is made in, without it
      const node = compiled && (compiled.edits.get(id)?.before ?? nodeBefore(compiled, target));
      const drawn = built && node !== undefined ? drawnGraph(built, [node]) : undefined;
      if (!drawn || node === undefined) return;
      const area = {
        x: Math.round(x) - PATCH,
        y: Math.round(y) - PATCH,
        width: 2 * PATCH + 1,
        height: 2 * PATCH + 1,
      };
      viewer
        .run((tasks) => tasks.sample(drawn, node, area))
        .then((codes) => {
          const neutral = neutralOf(Math.round(x), Math.round(y), codes);
          if (neutral)
            actions.edit('Sampled what should be grey', setKindOfEdit(target, 'neutral', neutral, id));
          else
            actions.report(
              'That patch is too dark or too light to know its colour. Sample one of middle tone.',
            );
        })
        .catch(() => undefined);
    };
    const takeSubject = (line: Line): void => {
      const { width, height } = pictureGrid(projectNow()) ?? { width: 1, height: 1 };
      const long = Math.max(width, height);
      const [x0, y0, x1, y1] = line.map((v) => v / long);
      const around = { x: (x0 + x1) / 2, y: (y0 + y1) / 2 };
      const axes = { across: Math.abs(x1 - x0) / 2, down: Math.abs(y1 - y0) / 2 };
      actions.edit(
        EDITS_TEXT.vignette.drawn,
        setKindOfEdit(
          target,
          'vignette',
          { ...firstFall(projectNow(), target), ...around, ...axes },
          newEditId(target, 'vignette'),
        ),
      );
    };
    const finish = ({ line, first }: Drawn): void => {
      const [x0, y0, x1, y1] = line;
      const long = Math.hypot(x1 - x0, y1 - y0) >= SHORTEST;
      const box = inside(boxOf(line));
      const large = box.width >= 32 && box.height >= 32;
      switch (inHand) {
        case 'watch': {
          const [x, y] = finished ? transform(straightenOf(projectNow()), x1, y1) : [x1, y1];
          actions.edit('Pinned a watch point', addWatchPoint(crypto.randomUUID(), x, y));
          return actions.take(undefined);
        }
        case 'patch':
          sample(x1, y1);
          return actions.take(undefined);
        case 'held':
          if (!large) return;
          actions.edit(
            'Fit held on a region',
            setHeld(activeScope(bench.store.getState())?.set.id ?? '', box),
          );
          return actions.take(undefined);
        case 'print':
          if (!large) return;
          actions.edit('Print region drawn', setPrintRegion(box));
          return actions.take(undefined);
        case 'subject':
          if (!large) return;
          takeSubject(onReference(line));
          return actions.take(undefined);
        case 'level':
          if (!long) return;
          actions.edit(
            'Level from a line',
            setGeometry({
              straighten: { ...projectNow().geometry.straighten, level: onReference(line) },
              crop: undefined,
            }),
          );
          return actions.take(undefined);
        case 'upright':
          if (!long) return;
          if (!first) return show({ tool: inHand, line: [0, 0, 0, 0], first: line });
          actions.edit(
            'Uprights from two lines',
            setGeometry({
              straighten: { uprights: [onReference(first), onReference(line)] },
              crop: undefined,
            }),
          );
          show(undefined);
          return actions.take(undefined);
      }
    };
    return {
      onStart: ({ x, y }: ToolPoint) => {
        const { first } = current.current ?? {};
        show({ tool: inHand, line: [x, y, x, y], ...(first ? { first } : {}) });
      },
      onMove: (points) => {
        const last = points[points.length - 1];
        const now = current.current;
        if (now) show({ ...now, line: [now.line[0], now.line[1], last.x, last.y] });
      },
      onEnd: () => {
        const now = current.current;
        if (!now) return;
        show(undefined);
        finish(now);
      },
      onCancel: () => show(undefined),
    };
  }, [actions, bench, finished, hasGrid, inHand, target, viewer]);
  const shown = drawn?.tool === inHand ? drawn : undefined;
  return { tool, drawn: shown };
}
