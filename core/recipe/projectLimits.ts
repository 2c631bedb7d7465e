import { allLayers } from '../layers/layer';
import { type Stroke } from '../mask/stroke';
import { type Project } from './project';
import { regionsOf } from './regionsOf';

/** How much a project may hold: what the gate refuses, no edit may make. */
export const PROJECT_LIMITS = {
  frames: 400,
  sets: 40,
  layers: 200,
  /** groups within groups */
  depth: 8,
  alternatives: 20,
  regions: 200,
  /** parts of one region */
  parts: 60,
  /** edits of one list */
  edits: 60,
  strokes: 5000,
  /** of all strokes, once they are simplified */
  points: 60_000,
  movers: 1000,
  watchPoints: 6,
  views: 400,
} as const;

/** Every stroke of a project, wherever it belongs to a region. */
export function strokesOf(project: Pick<Project, 'regions' | 'sets' | 'layers' | 'edits'>): Stroke[] {
  return regionsOf(project).flatMap((r) =>
    r.parts.flatMap(({ part }) => (part.kind === 'strokes' ? part.settings.strokes : [])),
  );
}

/** Points of all strokes of a project. */
export function strokePoints(project: Parameters<typeof strokesOf>[0]): number {
  return strokesOf(project).reduce((n, s) => n + s.points.length, 0);
}

/** A sentence when a project holds more than it may; undefined otherwise. */
export function limitExceeded(project: Project): string | undefined {
  const { frames, sets, layers, edits, watchPoints, regions } = project;
  const most = PROJECT_LIMITS;
  const all = allLayers(layers);
  if (frames.length > most.frames)
    return `A project holds at most ${most.frames} frames. Start a second project for the others, or take frames out.`;
  if (sets.length > most.sets) return `A project holds at most ${most.sets} sets. Take one out first.`;
  if (all.length > most.layers) return `A project holds at most ${most.layers} layers. Take one out first.`;
  if (all.some((l) => l.alternatives.length > most.alternatives))
    return `A layer has at most ${most.alternatives} versions beside the one in force. Take one out first.`;
  if (regions.length > most.regions) return `A project holds at most ${most.regions} named regions.`;
  const lists = [edits, ...sets.map((s) => s.edits), ...all.map((l) => l.edits)];
  if (lists.some((l) => l.length > most.edits))
    return `There are at most ${most.edits} edits in one place. Take one out first.`;
  const where = regionsOf(project);
  if (where.some((r) => r.parts.length > most.parts)) return `A region has at most ${most.parts} parts.`;
  const crowded = where.some((r) =>
    r.parts.some(({ part }) => part.kind === 'strokes' && part.settings.strokes.length > most.strokes),
  );
  if (crowded || strokePoints(project) > most.points)
    return 'This project holds as many strokes as Marsh keeps. Clear a region that is not needed any more first.';
  if (sets.some((s) => s.movers.length > most.movers))
    return `A set holds at most ${most.movers} chosen places of movers.`;
  if (watchPoints.length > most.watchPoints)
    return `There are at most ${most.watchPoints} watch points. Take one out first.`;
  return undefined;
}
