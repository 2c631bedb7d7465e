'use client';
import { findLayer } from '@/core/layers/layer';
import { IDENTITY } from '@/core/raster/matrix3';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { type Part } from '@/core/region/region';
import { isPressed } from '@/core/region/same/same';
import { regionOf, type RegionOwner } from '@/store/edits/regions';
import { type Size, toTable, type Viewport } from '@/ui/table/viewport';
import { useBench, useBenchParts, useProject } from '../benchContext';
import { useOpenEdit } from '../edits/useOpenEdit';
import { useTarget } from '../edits/useTarget';
import { OverlaySvg } from '../overlay/PlaceMark';
import { DabMarks, dabPath } from './DabMarks';
import { fromLaid, laidPicture } from './laidPicture';
import { type DrawnDab } from './useDabTool';

/** The region that is open in the panel: that of the open edit, or of the chosen layer. */
function useOpenRegion(): RegionOwner | undefined {
  const at = useTarget();
  const edit = useOpenEdit();
  const layer = useBench(({ session, history: { project } }) =>
    session.station === 'layers' && session.layerPart === 'where'
      ? findLayer(project.layers, session.layer)?.id
      : undefined,
  );
  if (layer !== undefined) return { kind: 'layer', layer };
  return edit && { kind: 'edit', at, edit: edit.id };
}

interface MarksProps {
  readonly viewport: Viewport;
  readonly table: Size;
  /** the dab that is being drawn */
  readonly drawn?: DrawnDab;
}

/** Where the drawn parts of the open region lie: a gradient from full to nothing, an ellipse’s rim, an outline’s corners. */
export function RegionMarks({ viewport, table, drawn }: MarksProps) {
  const { bench } = useBenchParts();
  const pointed = useBench((s) => s.pointed);
  const owner = useOpenRegion();
  const project = useProject();
  const longEdge = longEdgeOf(project);
  const parts = owner && regionOf(project, owner)?.parts;
  const hasDabs = parts?.some(({ part }) => part.kind === 'thing' || part.kind === 'parted') ?? false;
  // how pictures lie matters to dabs alone; a stroke is another graph with every movement
  const compiled = useBench((s) => (hasDabs ? bench.shown(s).built?.compiled : undefined));
  if (!parts || longEdge === 0) return null;
  const at = (x: number, y: number): readonly [number, number] =>
    toTable(viewport, table, x * longEdge, y * longEdge);
  const shapes = parts.flatMap(({ part, on }, i) => {
    const path = on ? pathOf(part, at) : undefined;
    return path === undefined ? [] : [{ key: i, path }];
  });
  const dabs = parts.flatMap(({ part, on }) => {
    if (!on || (part.kind !== 'thing' && part.kind !== 'parted') || !compiled) return [];
    const { width, height } = compiled;
    const back = fromLaid(
      part.kind === 'thing' ? laidPicture(compiled, owner) : { matrix: IDENTITY, width, height },
    );
    return part.settings.dabs.map(({ is, points }) => ({
      is,
      path: dabPath(points.map(([x, y]) => toTable(viewport, table, ...back(x, y)))),
    }));
  });
  if (drawn)
    dabs.push({
      is: drawn.is,
      path: dabPath(drawn.points.map(([x, y]) => toTable(viewport, table, x, y))),
    });
  const stroke = pointed && {
    path: dabPath(pointed.points.map(([x, y]) => at(x, y))),
    width: pointed.size * longEdge * viewport.zoom,
  };
  if (shapes.length + dabs.length === 0 && !stroke) return null;
  return (
    <OverlaySvg aria-hidden fill="none">
      {shapes.map(({ key, path }) => (
        <g key={key}>
          <path d={path} stroke="#000" strokeOpacity="0.6" strokeWidth="3.2" />
          <path d={path} stroke="#fff" strokeWidth="1.3" strokeDasharray="7 3" />
        </g>
      ))}
      <DabMarks dabs={dabs} />
      {stroke && (
        <g strokeLinecap="round" strokeLinejoin="round">
          <path d={stroke.path} stroke="#fff" strokeOpacity="0.28" strokeWidth={stroke.width} />
          <path d={stroke.path} stroke="#000" strokeOpacity="0.7" strokeWidth="3.4" />
          <path d={stroke.path} stroke="#fff" strokeWidth="1.4" />
        </g>
      )}
    </OverlaySvg>
  );
}

type ToScreen = (x: number, y: number) => readonly [number, number];

/** how long the bars at the ends of a gradient are, pixels of the screen */
const BAR = 26;
const ELLIPSE_STEPS = 72;
/** half a cross, pixels of the screen */
const CROSS = 9;

/** The outline of a part that is drawn by hand; undefined for any other. */
function pathOf(part: Part, at: ToScreen): string | undefined {
  switch (part.kind) {
    case 'gradient': {
      const { x0, y0, x1, y1 } = part.settings;
      const [from, to] = [at(x0, y0), at(x1, y1)];
      const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
      if (length < 1) return undefined;
      const [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
      // the bar where all of it counts is the longer one
      const bar = ([x, y]: readonly [number, number], half: number): string =>
        `M${x - uy * half} ${y + ux * half}L${x + uy * half} ${y - ux * half}`;
      return `M${from.join(' ')}L${to.join(' ')}${bar(from, BAR)}${bar(to, BAR / 2)}`;
    }
    case 'ellipse': {
      const { x, y, across, down, turn } = part.settings;
      const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
      const rim = Array.from({ length: ELLIPSE_STEPS }, (_, k) => {
        const angle = (2 * Math.PI * k) / ELLIPSE_STEPS;
        const [u, v] = [across * Math.cos(angle), down * Math.sin(angle)];
        return at(x + c * u - s * v, y + s * u + c * v).join(' ');
      });
      return `M${rim.join('L')}Z`;
    }
    case 'polygon': {
      const { corners } = part.settings;
      if (corners.length < 2) return undefined;
      return `M${corners.map(([x, y]) => at(x, y).join(' ')).join('L')}Z`;
    }
    case 'same': {
      if (!isPressed(part.settings)) return undefined;
      const [x, y] = at(part.settings.x, part.settings.y);
      return `M${x - CROSS} ${y}H${x + CROSS}M${x} ${y - CROSS}V${y + CROSS}`;
    }
    default:
      return undefined;
  }
}
