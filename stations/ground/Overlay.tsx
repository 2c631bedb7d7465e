'use client';
import { useId } from 'react';
import { cameraOn } from '@/core/ground/cameraOn';
import { groundView } from '@/core/ground/groundView';
import { tallOf } from '@/core/ground/eyeHeight';
import { horizonAt } from '@/core/ground/horizonAt';
import { type Space, type SpaceLine } from '@/core/ground/space';
import { pictureGrid, type PictureGrid } from '@/core/recipe/pictureGrid';
import { type PlateOnGround, platesOnGround } from '@/store/standingPlates';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { useBench, useProject } from '../benchContext';
import { MarkText } from '../overlay/MarkText';
import { OverlaySvg } from '../overlay/PlaceMark';
import { tipOf } from './groundHandles';
import { inPixels } from './SpaceSection';
import { GROUND_TEXT as TEXT } from './text';
import { type DrawnUpright } from './useGroundTool';

/** distances at which lines lie across the ground, metres */
const ACROSS = [1, 2, 5, 10, 20, 50, 100, 200];
/** lines that run away from the camera: so many to each side, as far apart as half the eye's height times this */
const SIDES = 6;
const APART = 2;
/** how near to the camera and how far they are drawn, metres */
const [NEAREST, FARTHEST] = [0.5, 400];

/** labels are no nearer to each other, screen pixels */
const APART_PX = 15;

/** with these in hand the lines are shown */
const LINE_TOOLS: ReadonlySet<string | undefined> = new Set(['ground', 'ground line']);

type At = (x: number, y: number) => readonly [number, number];

export interface GroundOverlayProps {
  readonly viewport: Viewport;
  readonly table: Size;
  readonly drawn: DrawnUpright | undefined;
}

/** The ground as a calm grid, the horizon, the feet with their distances, where shadows end, and yardsticks. */
export function GroundOverlay({ viewport, table, drawn }: GroundOverlayProps) {
  const project = useProject();
  const { look, tool } = useBench((s) => ({ look: s.session.look, tool: s.tool }));
  const grid = pictureGrid(project);
  const { space } = project;
  if (!space || !grid || look === 'before') return null;
  const at: At = (x, y) => toTable(viewport, table, x, y);
  const plates = platesOnGround(project);
  return (
    <OverlaySvg aria-hidden fill="none">
      <GroundLines space={space} grid={grid} at={at} table={table} />
      {LINE_TOOLS.has(tool) && <SpaceLines space={space} grid={grid} at={at} />}
      <Horizon space={space} grid={grid} at={at} pulled={tool === 'ground'} />
      {plates.map((plate) => (
        <PlateMarks key={plate.layer.id} space={space} plate={plate} at={at} pulled={tool === 'ground'} />
      ))}
      {(space.yardsticks ?? []).map((own, i) => {
        const [camera, foot, top] = inPixels(space, own, grid);
        const metres = tallOf(camera, foot, top);
        return (
          <Upright
            key={i}
            from={at(...foot)}
            to={at(...top)}
            label={metres === undefined ? '' : TEXT.metres(metres)}
          />
        );
      })}
      {drawn && 'line' in drawn && (
        <Upright from={at(drawn.line[0], drawn.line[1])} to={at(drawn.line[2], drawn.line[3])} label="" />
      )}
      {drawn && 'first' in drawn && <Cross at={at(...drawn.first)} />}
    </OverlaySvg>
  );
}

/** Two strokes over each other, so that a line is seen on light and dark. */
function Stroke({
  d,
  dash,
  wide = 1.2,
  calm = false,
}: {
  d: string;
  dash?: string;
  wide?: number;
  calm?: boolean;
}) {
  return (
    <>
      <path
        d={d}
        stroke="#000"
        strokeOpacity={calm ? 0.22 : 0.55}
        strokeWidth={wide + 1.6}
        strokeDasharray={dash}
      />
      <path d={d} stroke="#fff" strokeOpacity={calm ? 0.45 : 1} strokeWidth={wide} strokeDasharray={dash} />
    </>
  );
}

interface GroundPartProps {
  readonly space: Space;
  readonly grid: PictureGrid;
  readonly at: At;
}

/** Lines across the ground at round distances, and lines that run away. */
function GroundLines({ space, grid, at, table }: GroundPartProps & { readonly table: Size }) {
  const clip = useId();
  const view = groundView(cameraOn(space.camera, grid));
  const { height } = space.camera;
  const seen = (x: number, z: number): readonly [number, number] | undefined => {
    const pixel = view.seenAt([x, -height, z]);
    return pixel && at(...pixel);
  };
  const way = APART * height;
  const far = Math.min(FARTHEST, 120 * height);
  const across = ACROSS.flatMap((z) => {
    const [a, b] = [seen(-SIDES * way, z), seen(SIDES * way, z)];
    return a && b ? [{ z, a, b }] : [];
  });
  const away = Array.from({ length: 2 * SIDES + 1 }, (_, i) => (i - SIDES) * way).flatMap((x) => {
    const [a, b] = [seen(x, Math.max(NEAREST, height / 2)), seen(x, far)];
    return a && b ? [`M${a.join(' ')}L${b.join(' ')}`] : [];
  });
  const d = [...away, ...across.map(({ a, b }) => `M${a.join(' ')}L${b.join(' ')}`)].join('');
  const [left, top] = at(0, 0);
  const [right, bottom] = at(grid.width, grid.height);
  // near the horizon they lie too close to be told apart
  const told = across.filter(
    ({ a }, i) =>
      a[1] < Math.min(bottom, table.height) - 4 && (i === 0 || across[i - 1].a[1] - a[1] > APART_PX),
  );
  return (
    <>
      <clipPath id={clip}>
        <rect x={left} y={top} width={Math.max(0, right - left)} height={Math.max(0, bottom - top)} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        <Stroke d={d} wide={0.8} calm />
      </g>
      {told.map(({ z, a }) => (
        <MarkText key={z} x={Math.max(left + 5, a[0])} y={a[1] - 3}>{`${z} m`}</MarkText>
      ))}
    </>
  );
}

/** Straight lines that the camera is told by: what stands is drawn through, what is level in dashes; what was drawn by hand is wider. */
function SpaceLines({ space, grid, at }: GroundPartProps) {
  const long = Math.max(grid.width, grid.height);
  const ways = (wanted: (line: SpaceLine) => boolean): string =>
    (space.lines ?? [])
      .filter(wanted)
      .map(({ from, to }) => {
        const [a, b] = [at(from[0] * long, from[1] * long), at(to[0] * long, to[1] * long)];
        return `M${a.join(' ')}L${b.join(' ')}`;
      })
      .join('');
  return (
    <>
      <Stroke d={ways((l) => l.family === 'upright' && !l.drawn)} />
      <Stroke d={ways((l) => l.family !== 'upright' && !l.drawn)} dash="4 3" />
      <Stroke d={ways((l) => l.drawn === true)} wide={2.4} />
    </>
  );
}

function Horizon({ space, grid, at, pulled }: GroundPartProps & { readonly pulled: boolean }) {
  const camera = cameraOn(space.camera, grid);
  const [a, b] = [at(0, horizonAt(camera, 0)), at(grid.width, horizonAt(camera, grid.width))];
  return (
    <>
      <Stroke d={`M${a.join(' ')}L${b.join(' ')}`} wide={pulled ? 2 : 1.3} />
      <MarkText x={b[0] - 58} y={b[1] - 6}>
        {TEXT.horizon}
      </MarkText>
    </>
  );
}

interface PlateMarksProps {
  readonly space: Space;
  readonly plate: PlateOnGround;
  readonly at: At;
  readonly pulled: boolean;
}

/** The foot of a plate with its distance, and the way to where its shadow ends. */
function PlateMarks({ space, plate, at, pulled }: PlateMarksProps) {
  const { foot, stood, layer } = plate;
  if (!foot) return null;
  const [x, y] = at(...foot);
  const tip = stood && !layer.stand?.water ? tipOf(space, plate) : undefined;
  const end = tip && at(...tip);
  return (
    <>
      {end && <Stroke d={`M${x} ${y}L${end.join(' ')}`} dash="5 4" />}
      <path d={`M${x - 9} ${y}L${x} ${y - 5}L${x + 9} ${y}L${x} ${y + 5}Z`} fill={pulled ? '#fff' : 'none'} />
      <Stroke d={`M${x - 9} ${y}L${x} ${y - 5}L${x + 9} ${y}L${x} ${y + 5}Z`} />
      {end && pulled && (
        <path
          d={`M${end[0] - 6} ${end[1] - 6}h12v12h-12Z`}
          fill="#fff"
          stroke="#000"
          strokeOpacity="0.7"
          strokeWidth="1.5"
        />
      )}
      <MarkText x={x + 12} y={y + 14}>
        {stood ? TEXT.metres(stood.distance) : TEXT.nowhere}
      </MarkText>
    </>
  );
}

function Upright({
  from: [x, y],
  to: [u, v],
  label,
}: {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
  readonly label: string;
}) {
  return (
    <>
      <Stroke d={`M${x - 6} ${y}h12M${x} ${y}L${u} ${v}M${u - 6} ${v}h12`} />
      {label && (
        <MarkText x={u + 9} y={(y + v) / 2}>
          {label}
        </MarkText>
      )}
    </>
  );
}

function Cross({ at: [x, y] }: { readonly at: readonly [number, number] }) {
  return <Stroke d={`M${x - 7} ${y}h14M${x} ${y - 7}v14`} />;
}
