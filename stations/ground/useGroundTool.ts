import { useEffect, useMemo, useRef, useState } from 'react';
import { type Line } from '@/core/finish/straighten';
import { cameraOn } from '@/core/ground/cameraOn';
import { footMoved } from '@/core/ground/footMoved';
import { groundView } from '@/core/ground/groundView';
import { horizonAt } from '@/core/ground/horizonAt';
import { sunOfShadow } from '@/core/ground/shadowTip';
import { problemSentence } from '@/core/proof/problem';
import { MOST_YARDSTICKS } from '@/core/ground/space';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { type Bench } from '@/store/benchState';
import { moveFoot, setCamera, setYardsticks, turnSun } from '@/store/edits/stand';
import { airFromPlaces, lightFromPlaces } from '@/store/groundSamples';
import { drawSpaceLine } from '@/store/spaceFromLines';
import { type PlateOnGround, platesOnGround } from '@/store/standingPlates';
import { type Tool } from '@/ui/table/tool';
import { useBench, useBenchParts } from '../benchContext';
import { type GroundHandle, groundHandles, handleAt } from './groundHandles';
import { GROUND_TEXT as TEXT } from './text';

/** how near a handle must be, screen pixels */
const REACH = 18;
/** rows for a column from which on a line stands */
const STEEP = 2.4;
/** a line or yardstick shorter than this is none, picture pixels */
const SHORTEST = 8;

type Pixel = readonly [x: number, y: number];

/** What is being drawn: a yardstick from its foot, or the first of two places. */
export type DrawnUpright = { readonly line: Line } | { readonly first: Pixel };

/** The tools of the ground: what is pulled on the picture, yardsticks, and pairs of places. */
export function useGroundTool(): { tool: Tool | undefined; drawn: DrawnUpright | undefined } {
  const { bench } = useBenchParts();
  const tool = useBench((s) => (s.session.station === 'ground' ? s.tool : undefined));
  const [drawn, setDrawn] = useState<DrawnUpright>();
  const pulled = useRef<{ readonly handle: GroundHandle; readonly gesture: string }>(undefined);
  const line = useRef<Line>(undefined);
  const first = useRef<Pixel>(undefined);
  const made = useMemo<Tool | undefined>(() => {
    switch (tool) {
      case 'ground':
        return {
          onStart: ({ x, y }) => {
            const now = groundOf(bench);
            const zoom = bench.store.getState().session.viewport?.zoom ?? 0.3;
            const handle =
              now && handleAt(groundHandles(now.space, now.plates, now.grid), [x, y], REACH / zoom);
            pulled.current = handle && { handle, gesture: `ground ${performance.now()}` };
            if (handle && handle.kind !== 'horizon') bench.actions.go({ layer: handle.layer });
          },
          onMove: (points) => {
            const last = points.at(-1);
            if (pulled.current && last)
              pull(bench, pulled.current.handle, [last.x, last.y], pulled.current.gesture);
          },
          onEnd: () => (pulled.current = undefined),
        };
      case 'yardstick':
      case 'ground line':
        return {
          onStart: ({ x, y }) => (line.current = [x, y, x, y]),
          onMove: (points) => {
            const last = points.at(-1);
            if (!last || !line.current) return;
            line.current = [line.current[0], line.current[1], last.x, last.y];
            setDrawn({ line: line.current });
          },
          onEnd: () => {
            if (line.current) (tool === 'yardstick' ? addYardstick : addLine)(bench, line.current);
            line.current = undefined;
            setDrawn(undefined);
          },
          onCancel: () => {
            line.current = undefined;
            setDrawn(undefined);
          },
        };
      case 'lit and shaded':
      case 'near and far': {
        const solve = tool === 'lit and shaded' ? lightFromPlaces : airFromPlaces;
        return {
          onStart: ({ x, y }) => {
            const before = first.current;
            if (!before) {
              first.current = [x, y];
              return setDrawn({ first: [x, y] });
            }
            first.current = undefined;
            setDrawn(undefined);
            bench.actions.take(undefined);
            solve(bench, before, [x, y]).catch((thrown: unknown) =>
              bench.actions.report(problemSentence(thrown, TEXT.reading)),
            );
          },
          onMove: () => undefined,
          onEnd: () => undefined,
        };
      }
      default:
        return undefined;
    }
  }, [bench, tool]);
  // what was begun goes with the tool
  useEffect(
    () => () => {
      first.current = undefined;
      setDrawn(undefined);
    },
    [tool],
  );
  return { tool: made, drawn };
}

function groundOf(bench: Bench) {
  const { project } = bench.store.getState().history;
  const plates = platesOnGround(project);
  const grid = plates.at(0)?.grid ?? pictureGrid(project);
  return project.space && grid ? { space: project.space, plates, grid } : undefined;
}

/** Does what pulling a handle means. */
function pull({ store, actions }: Bench, handle: GroundHandle, to: Pixel, gesture: string): void {
  const { project } = store.getState().history;
  const grid = pictureGrid(project);
  if (!project.space || !grid) return;
  const long = Math.max(grid.width, grid.height);
  if (handle.kind === 'horizon') {
    const camera = cameraOn(project.space.camera, grid);
    const here = to[1] - (horizonAt(camera, to[0]) - camera.horizon);
    return actions.edit(TEXT.horizon, setCamera({ horizon: here / long }), gesture);
  }
  const plate = platesOnGround(project).find((p) => p.layer.id === handle.layer);
  if (handle.kind === 'foot') return moveTo(plate, to);
  const view = groundView(cameraOn(project.space.camera, grid));
  const tip = view.groundAt(...to);
  const sun = tip && plate?.stood && plate.tall ? sunOfShadow(plate.stood.at, plate.tall, tip) : undefined;
  if (sun) actions.edit(TEXT.turned, turnSun(sun), gesture);

  function moveTo(own: PlateOnGround | undefined, foot: Pixel): void {
    const { layer, standing, stood, foot: from } = own ?? {};
    if (!layer?.place || !standing || !from) return;
    // one that hangs in the air comes down without a size that could follow
    const place = stood
      ? footMoved(standing, stood, layer.place, from, foot, long)
      : {
          ...layer.place,
          x: layer.place.x + (foot[0] - from[0]) / long,
          y: layer.place.y + (foot[1] - from[1]) / long,
        };
    if (place) actions.edit(TEXT.moved(layer.name), moveFoot(layer.id, place), gesture);
  }
}

function addLine(bench: Bench, [x0, y0, x1, y1]: Line): void {
  const grid = pictureGrid(bench.store.getState().history.project);
  if (!grid || Math.hypot(x1 - x0, y1 - y0) < SHORTEST) return;
  const long = Math.max(grid.width, grid.height);
  // what leans by less than an eighth of a turn stands
  const family = Math.abs(y1 - y0) > STEEP * Math.abs(x1 - x0) ? 'upright' : 'level';
  drawSpaceLine(bench, { from: [x0 / long, y0 / long], to: [x1 / long, y1 / long], family }).catch(
    (thrown: unknown) => bench.actions.report(problemSentence(thrown, TEXT.drawLine)),
  );
}

function addYardstick({ store, actions }: Bench, [x0, y0, x1, y1]: Line): void {
  const { project } = store.getState().history;
  const grid = pictureGrid(project);
  if (!project.space || !grid || Math.abs(y1 - y0) < SHORTEST) return;
  const long = Math.max(grid.width, grid.height);
  // what stands is drawn from either end
  const [foot, top] =
    y0 > y1 ? [[x0, y0] as const, [x1, y1] as const] : [[x1, y1] as const, [x0, y0] as const];
  const { yardsticks = [] } = project.space;
  const next = { foot: [foot[0] / long, foot[1] / long], top: [foot[0] / long, top[1] / long] } as const;
  actions.edit(TEXT.drewYardstick, setYardsticks([...yardsticks, next].slice(-MOST_YARDSTICKS)));
  actions.take(undefined);
}
