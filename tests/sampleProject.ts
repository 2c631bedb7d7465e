import { type ClippedShares } from '@/core/capture/clippedShares';
import { type SetKind } from '@/core/capture/setKind';
import { emptyImage } from '@/core/raster/encodedImage';
import { translation } from '@/core/raster/matrix3';
import { emptyProject } from '@/core/recipe/emptyProject';
import {
  type Frame,
  type FrameSet,
  type KeptPanorama,
  type MadeFact,
  type Project,
  type SetScope,
} from '@/core/recipe/project';
import { setScope } from '@/core/recipe/setFrames';
import { setGraph } from '@/core/recipe/setGraph';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { type DecodedFrame } from '@/engine/tasks';

const NOTHING: ClippedShares = { light: 0, dark: 0 };

/** A frame of 600 × 400 with a made-up hash. */
export function sampleFrame(id: string, stops: number, change: Partial<Frame> = {}): Frame {
  const hash = [...id.padEnd(4, '0')]
    .map((c) => c.charCodeAt(0).toString(16).padStart(2, '0'))
    .join('')
    .padEnd(64, '0');
  return {
    id,
    file: `${id}.jpg`,
    hash,
    bytes: 1000,
    width: 600,
    height: 400,
    depth: 8,
    facts: { seconds: 2 ** stops / 60, aperture: 8, iso: 100 },
    stops,
    stopsSource: 'exif',
    clipped: NOTHING,
    measures: {},
    used: true,
    ...change,
  };
}

/** A fit that shifts by (dx, dy). */
export function sampleFit(dx: number, dy: number, change: Partial<Registration> = {}): Registration {
  return {
    ...referenceRegistration(),
    matrix: translation(dx, dy),
    bound: 0.01,
    residual: { typical: 0.05, worst: 0.2 },
    tiles: [{ x: 300, y: 200, dx: 0.05, dy: 0, error: 0.01 }],
    ...change,
  };
}

/** Three frames of a bracket or another kind, fitted: dark, reference and light; the light one is off by (10, −6) pixels. */
export function sampleProject({ kind = 'bracket' }: { readonly kind?: SetKind } = {}): Project {
  const frames = [sampleFrame('dark', -2), sampleFrame('mid', 0), sampleFrame('light', 2)];
  const project = emptyProject('p1', 'Sample', '2026-10-03T12:00:00.000Z');
  return withFits(
    {
      ...project,
      frames,
      sets: [{ ...project.sets[0], kind, frames: frames.map((f) => f.id), reference: 'mid', why: 'because' }],
    },
    { dark: sampleFit(-4, 3), mid: referenceRegistration(), light: sampleFit(10, -6) },
  );
}

/** A project whose base is fitted so: registrations by frame id, and how a panorama was turned. */
export function withFits(
  project: Project,
  fits: Readonly<Record<string, Registration>>,
  panorama?: KeptPanorama,
): Project {
  const scope = setScope(project, project.base);
  if (!scope) return project;
  const nodes = setGraph(scope).fits;
  const made: Record<string, MadeFact> = {
    [nodes.hash]: { of: 'fits', fits, ...(panorama ? { panorama } : {}) },
  };
  return { ...project, made };
}

/** A project whose base set is otherwise. Fits belong to what it was: give them anew by {@link withFits}. */
export function withSet(project: Project, change: Partial<FrameSet>): Project {
  return {
    ...project,
    sets: project.sets.map((s) => (s.id === project.base ? { ...s, ...change } : s)),
  };
}

/** The base set of a project. */
export function baseOf(project: Project): SetScope {
  const scope = setScope(project, project.base);
  if (!scope) throw new Error('the project has no base');
  return scope;
}

/** The frames of a project as if they had been decoded: black. */
export function sampleDecoded(project = sampleProject()): Readonly<Record<string, DecodedFrame>> {
  const decoded = project.frames.map(({ hash, width, height, facts }): [string, DecodedFrame] => [
    hash,
    { levels: [emptyImage(width, height, 255)], facts, depth: 8, hash },
  ]);
  return Object.fromEntries(decoded);
}
