import { type Project } from './project';

/** How much a project may hold: what the gate refuses, no edit may make. */
export const PROJECT_LIMITS = {
  frames: 400,
  layers: 200,
  strokes: 5000,
  /** of all strokes, once they are simplified */
  points: 60_000,
  movers: 1000,
  watchPoints: 6,
  views: 400,
} as const;

/** Points of all strokes of a project. */
export function strokePoints({ layers }: Pick<Project, 'layers'>): number {
  return layers.reduce((sum, l) => sum + l.mask.strokes.reduce((n, s) => n + s.points.length, 0), 0);
}

/** A sentence when a project holds more than it may; undefined otherwise. */
export function limitExceeded(project: Project): string | undefined {
  const { frames, layers, set, watchPoints } = project;
  const most = PROJECT_LIMITS;
  if (frames.length > most.frames)
    return `A project holds at most ${most.frames} frames. Start a second project for the others, or take frames out.`;
  if (layers.length > most.layers)
    return `A project holds at most ${most.layers} layers. Take one out first.`;
  if (layers.some((l) => l.mask.strokes.length > most.strokes) || strokePoints(project) > most.points)
    return 'This project holds as many strokes as Marsh keeps. Clear a mask that is not needed any more first.';
  if (set.movers.length > most.movers)
    return `A project holds at most ${most.movers} chosen places of movers.`;
  if (watchPoints.length > most.watchPoints)
    return `There are at most ${most.watchPoints} watch points. Take one out first.`;
  return undefined;
}
