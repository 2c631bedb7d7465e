import { useMemo, useState } from 'react';
import { type Dab } from '@/core/cutout/dab';
import { IDENTITY } from '@/core/raster/matrix3';
import { MOST_DAB_POINTS, MOST_DABS } from '@/core/region/thing/dabs';
import { regionOf, setPart } from '@/store/edits/regions';
import { type Tool, type ToolPoint } from '@/ui/table/tool';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { dabInHand } from './dabInHand';
import { laidPicture, toLaid } from './laidPicture';
import { partAgain } from './partAgain';
import { REGION_TEXT as TEXT } from './text';

/** width of a dab: pixels of the screen, and the most of the picture's long edge */
const DAB_WIDTH = 9;
const WIDEST = 0.012;
/** by how much wider what is undecided is drawn */
const EDGE_WIDTHS = 4;

/** A dab that is being drawn, pixel edges of the picture. */
export interface DrawnDab {
  readonly is: Dab['is'];
  readonly points: readonly (readonly [x: number, y: number])[];
}

/** Points at a thing, or at what it is not, as a tool of the table: each dab is one step of the history. */
export function useDabTool(): { tool: Tool | undefined; drawn: DrawnDab | undefined } {
  const { bench, viewer } = useBenchParts();
  const actions = useActions();
  const [drawn, setDrawn] = useState<DrawnDab>();
  const { is, drawing, zoom } = useBench((s) => ({
    is: dabInHand(s.tool),
    drawing: s.drawing,
    zoom: s.session.viewport?.zoom,
  }));
  const tool = useMemo<Tool | undefined>(() => {
    if (!is || !drawing) return undefined;
    const { owner, part: at } = drawing;
    let points: (readonly [x: number, y: number])[] = [];
    const draw = (more: readonly ToolPoint[]): void => {
      points = [...points, ...more.map(({ x, y }) => [x, y] as const)].slice(0, MOST_DAB_POINTS);
      setDrawn({ is, points });
    };
    const finish = (): void => {
      const state = bench.store.getState();
      const { built } = bench.shown(state);
      const part = regionOf(state.history.project, owner)?.parts[at]?.part;
      if (!built || points.length === 0 || (part?.kind !== 'thing' && part?.kind !== 'parted')) return;
      if (part.settings.dabs.length >= MOST_DABS) return actions.report(TEXT.tooManyDabs);
      const { width, height } = built.compiled;
      const laid =
        part.kind === 'thing' ? laidPicture(built.compiled, owner) : { matrix: IDENTITY, width, height };
      const long = Math.max(width, height);
      const thin = zoom === undefined ? WIDEST * long : Math.min(WIDEST * long, DAB_WIDTH / zoom);
      const across = is === 'edge' ? EDGE_WIDTHS * thin : thin;
      const [[x, y]] = points;
      const [a, b] = [toLaid(laid, x, y), toLaid(laid, x + across, y)];
      const dab: Dab = {
        is,
        size: Math.hypot(b[0] - a[0], b[1] - a[1]),
        points: points.map(([px, py]) => toLaid(laid, px, py)),
      };
      const dabs = [...part.settings.dabs, dab];
      if (part.kind === 'thing')
        actions.edit(TEXT.dabbed[is], setPart(owner, at, { part: { kind: 'thing', settings: { dabs } } }));
      else
        void partAgain({
          bench,
          viewer,
          owner,
          at,
          settings: { ...part.settings, dabs },
          label: TEXT.dabbed[is],
        });
    };
    return {
      onStart: (point) => {
        points = [];
        draw([point]);
      },
      onMove: draw,
      onEnd: () => {
        setDrawn(undefined);
        finish();
      },
      onCancel: () => setDrawn(undefined),
    };
  }, [actions, bench, viewer, drawing, is, zoom]);
  return { tool, drawn };
}
